import type { AccountInfo } from '~~/shared/people'
import { requirePerson } from '../../accounts/session'
import { fromDatabase } from '../../database/away'
import { Account } from '../../database/entities'
import { useRelay } from '../../relay'

/** Everybody who may sign in. */
export default defineEventHandler(async (event): Promise<AccountInfo[]> => {
  await requirePerson(event, 'administrator')
  const { orm, sessions } = useRelay()
  const accounts = await fromDatabase(() => orm.em.fork().find(Account, {}, { orderBy: { signIn: 'asc' } }))
  return accounts.map(account => ({ ...sessions.signedIn(account), disabled: account.disabled, sessions: sessions.of(account.signIn, null).length }))
})
