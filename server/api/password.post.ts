import { done } from '~~/shared/done'
import { passwordChange } from '~~/shared/people'
import { isGoodPassword, passwordRule } from '../accounts/passwords'
import { fromDatabase } from '../database/away'
import { Account } from '../database/entities'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'
import { wrongInput } from '../validation/read'
import { t } from '../language'

export default defineEndpoint({
  summary: 'A new password for oneself; every other browser is signed out',
  mayAsk: 'signedIn',
  body: passwordChange,
  answer: done('changed'),
  also: { 429: 'Too many failed attempts.' },
}, async ({ person: { signIn }, session, body: { current, wanted } }) => {
  const { orm, passwords, rules, sessions, signInLimits, log } = useRelay()
  const { passwordLength } = rules.current
  if (!isGoodPassword(wanted, signIn, passwordLength)) throw wrongInput('wanted', passwordRule(passwordLength))
  const attempt = { signIn, address: '', browser: 'password' }
  const wait = await fromDatabase(() => signInLimits.begin(attempt))
  if (wait !== null) throw createError({ statusCode: 429, message: t('answers.tooManyAttempts', { seconds: wait }) })
  const account = await fromDatabase(() => orm.em.fork().findOneOrFail(Account, { signIn }))
  if (!await passwords.verify(account.passwordHash, current)) throw wrongInput('current', t('answers.notThePresentPassword'))
  await fromDatabase(() => signInLimits.succeeded(attempt))
  const passwordHash = await passwords.hash(wanted)
  await fromDatabase(() => orm.em.fork().nativeUpdate(Account, { signIn }, { passwordHash }))
  await fromDatabase(() => sessions.end(signIn, ({ id }) => id !== session))
  log(`sign-in: ${signIn} changed the password`)
  return { changed: true }
})
