import { houseDirectory } from '~~/shared/house-directory'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'The house\'s own directory (LDAP): how it is read, what of whom it owns, who is there no more',
  mayAsk: { right: 'runCompany' },
  answer: houseDirectory,
}, () => fromDatabase(() => useRelay().houseDirectory.state()))
