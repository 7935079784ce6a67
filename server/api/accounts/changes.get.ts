import { accountChanges } from '~~/shared/people'
import { latestChanges } from '../../accounts/changes'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'What was changed of accounts and of the rules of the house: who, when, from what, to what',
  mayAsk: { right: 'keepAccounts' },
  answer: accountChanges,
}, () => fromDatabase(() => latestChanges(useRelay().orm.em.fork())))
