import { houseDirectoryLook, houseDirectoryWanted } from '~~/shared/house-directory'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'What would become of everybody in a directory: nothing is changed',
  dear: true,
  mayAsk: { right: 'runCompany' },
  body: houseDirectoryWanted,
  answer: houseDirectoryLook,
}, ({ body }) => useRelay().houseDirectory.look(body))
