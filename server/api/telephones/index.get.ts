import { telephoneAccountsKept } from '~~/shared/telephones'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Which of our telephones are telephones of the network, and where they register',
  mayAsk: { right: 'runCompany' },
  answer: telephoneAccountsKept,
}, () => fromDatabase(() => useRelay().telephones.list()))
