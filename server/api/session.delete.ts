import { done } from '~~/shared/done'
import { whoAsks } from '../accounts/session'
import { fromDatabase } from '../database/away'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'Sign out: the session is over on every server, whoever else has its cookie',
  mayAsk: 'everybody',
  answer: done('signedOut'),
}, async ({ event }) => {
  const asks = await whoAsks(event)
  if (asks) {
    const { sessions, log } = useRelay()
    await fromDatabase(() => sessions.end(asks.person.signIn, ({ id }) => id === asks.session))
    log(`sign-in: ${asks.person.signIn} signed out`)
  }
  await clearUserSession(event)
  return { signedOut: true }
})
