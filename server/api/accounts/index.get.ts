import { accounts } from '~~/shared/people'
import { fromDatabase } from '../../database/away'
import { Account } from '../../database/entities'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Everybody who may sign in',
  mayAsk: { right: 'keepAccounts' },
  answer: accounts,
}, async () => {
  const { orm, sessions } = useRelay()
  const found = await fromDatabase(() => orm.em.fork().find(Account, {}, { orderBy: { signIn: 'asc' } }))
  return found.map(account => ({
    ...sessions.signedIn(account), person: account.person ?? null, disabled: account.disabled, sessions: sessions.of(account.signIn, null).length,
  }))
})
