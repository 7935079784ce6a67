import { passwordChange } from '~~/shared/people'
import { isGoodPassword, passwordRule } from '../accounts/passwords'
import { requirePerson, sessionOf } from '../accounts/session'
import { fromDatabase } from '../database/away'
import { Account } from '../database/entities'
import { useRelay } from '../relay'
import { readInput, wrongInput } from '../validation/read'

/** A new password for oneself. Every other browser is signed out. */
export default defineEventHandler(async (event) => {
  const { signIn } = await requirePerson(event)
  const body: unknown = await readBody(event)
  const { current, wanted } = readInput(() => passwordChange.required().validateSync(body))
  if (!isGoodPassword(wanted, signIn)) throw wrongInput('wanted', passwordRule)
  const { orm, passwords, sessions, signInLimits, log } = useRelay()
  const attempt = { signIn, address: '', browser: 'password' }
  const wait = await fromDatabase(() => signInLimits.begin(attempt))
  if (wait !== null) throw createError({ statusCode: 429, message: `Too many attempts. Wait ${wait} seconds and try again.` })
  const account = await fromDatabase(() => orm.em.fork().findOneOrFail(Account, { signIn }))
  if (!await passwords.verify(account.passwordHash, current)) throw wrongInput('current', 'That is not your present password.')
  await fromDatabase(() => signInLimits.succeeded(attempt))
  const passwordHash = await passwords.hash(wanted)
  await fromDatabase(() => orm.em.fork().nativeUpdate(Account, { signIn }, { passwordHash }))
  const own = await sessionOf(event)
  await fromDatabase(() => sessions.end(signIn, ({ id }) => id !== own))
  log(`sign-in: ${signIn} changed the password`)
  return { changed: true }
})
