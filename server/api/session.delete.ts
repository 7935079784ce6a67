import { signedOut } from '~~/shared/people'
import { whoAsks } from '../accounts/session'
import { fromDatabase } from '../database/away'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'Sign out: the session is over on every server, whoever else has its cookie',
  mayAsk: 'everybody',
  answer: signedOut,
}, async ({ event }) => {
  const asks = await whoAsks(event)
  let there: string | null = null
  if (asks) {
    const { identity, sessions, log } = useRelay()
    const proof = await fromDatabase(() => sessions.proofOf(asks.session))
    there = proof === null ? null : await identity.endedAt(proof).catch(() => null)
    await fromDatabase(() => sessions.end(asks.person.signIn, ({ id }) => id === asks.session))
    log(`sign-in: ${asks.person.signIn} signed out`)
  }
  await clearUserSession(event)
  return { signedOut: true, there }
})
