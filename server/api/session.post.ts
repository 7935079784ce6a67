import { plainText } from '~~/core/calls/text'
import { credentials, signedIn } from '~~/shared/people'
import { addressOf } from '../accounts/address'
import { beginSession } from '../accounts/begin-session'
import { TooManyHashes } from '../accounts/passwords'
import { foldSignIn, knownBrowser } from '../accounts/sign-in-limits'
import { fromDatabase } from '../database/away'
import { Account } from '../database/entities'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'
import { t } from '../language'

const knownCookie = 'estafette-known'
const halfAYear = 180 * 24 * 60 * 60

export default defineEndpoint({
  summary: 'Sign in: the sealed cookie is set',
  mayAsk: 'everybody',
  body: credentials,
  answer: signedIn,
  also: { 401: 'Name and password do not belong together.', 429: 'Too many failed attempts; the header retry-after says how many seconds to wait.' },
}, async ({ event, body: { signIn: typed, password } }) => {
  const { orm, passwords, signInLimits, log } = useRelay()
  const { session: { password: secret, cookie } } = useRuntimeConfig(event)
  const secure = cookie && cookie.secure
  const signIn = foldSignIn(typed)
  const address = addressOf(event)
  const browser = knownBrowser(getCookie(event, knownCookie), signIn, secret)
  const attempt = { signIn, address, browser: browser.id }

  const wait = await fromDatabase(() => signInLimits.begin(attempt))
  if (wait !== null) {
    log(`sign-in: refused for "${plainText(signIn, 60)}" from ${address}: too many attempts`)
    setHeader(event, 'retry-after', wait)
    throw createError({ statusCode: 429, message: t('answers.tooManyFailed', { wait: spellWait(wait) }) })
  }
  const account = await fromDatabase(() => orm.em.fork().findOne(Account, { signIn }))
  const right = await passwords.verify(account?.passwordHash, password).catch(tooMany)
  if (!account || !right || account.disabled) {
    log(`sign-in: failed for "${plainText(signIn, 60)}" from ${address}`)
    throw createError({ statusCode: 401, message: t('answers.signInDoesNotFit') })
  }
  await fromDatabase(() => signInLimits.succeeded(attempt))
  if (passwords.isOld(account.passwordHash)) {
    const passwordHash = await passwords.hash(password)
    await fromDatabase(() => orm.em.fork().nativeUpdate(Account, { signIn }, { passwordHash }))
  }
  setCookie(event, knownCookie, browser.remembering, { httpOnly: true, sameSite: 'lax', secure, path: '/api/session', maxAge: halfAYear })
  return beginSession(event, account)
})

function tooMany(error: unknown): never {
  if (!(error instanceof TooManyHashes)) throw error
  throw createError({ statusCode: 503, message: t('answers.manySignIn') })
}

function spellWait(seconds: number): string {
  return seconds < 100 ? t('answers.countSeconds', { count: seconds }) : t('answers.countMinutes', { count: Math.ceil(seconds / 60) })
}
