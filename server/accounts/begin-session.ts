import type { H3Event } from 'h3'
import type { SignedIn } from '~~/shared/people'
import { fromDatabase } from '../database/away'
import type { AccountRow } from '../database/entities'
import { useRelay } from '../relay'
import { addressOf } from './address'
import { sessionOf } from './session'
import type { ProviderSession } from './sessions'
import { t } from '../language'

/**
 * Somebody has shown who they are: their session begins, in the place of one that this browser had.
 * @param there by which session of the identity provider
 */
export async function beginSession(event: H3Event, account: AccountRow, there?: ProviderSession): Promise<SignedIn> {
  const { sessions, log } = useRelay()
  const { signIn } = account
  const address = addressOf(event)
  const before = await sessionOf(event)
  if (before) await fromDatabase(() => sessions.end(signIn, ({ id }) => id === before))
  const session = await fromDatabase(() => sessions.begin(signIn, browserOf(event), address, there))
  await replaceUserSession(event, { secure: { session } })
  log(`sign-in: ${signIn} signed in from ${address}${there ? ' by the identity provider' : ''}`)
  return sessions.signedIn(account)
}

/** What kind of browser it says it is, to tell one's sessions apart. */
function browserOf(event: H3Event): string {
  const agent = getHeader(event, 'user-agent') ?? ''
  const browser = ['Firefox', 'Edg', 'Chrome', 'Safari'].find(name => agent.includes(name)) ?? t('answers.anotherProgram')
  const system = ['Windows', 'Android', 'iPhone', 'iPad', 'Mac OS', 'Linux'].find(name => agent.includes(name))
  const name = browser === 'Edg' ? 'Edge' : browser
  return system ? t('answers.browserOn', { browser: name, system }) : name
}
