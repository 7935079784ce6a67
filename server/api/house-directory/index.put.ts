import { houseDirectory, houseDirectoryWanted } from '~~/shared/house-directory'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Keep people in step with a directory from now on; it is read first, and what can\'t be read is not kept',
  mayAsk: { right: 'runCompany' },
  body: houseDirectoryWanted,
  answer: houseDirectory,
}, ({ body }) => useRelay().houseDirectory.keep(body))
