import { whoAsks } from '../accounts/session'
import { fromDatabase } from '../database/away'
import { useRelay } from '../relay'

/** Signs out: the session is over on every server, whoever else has its cookie. */
export default defineEventHandler(async (event) => {
  const asks = await whoAsks(event)
  if (asks) {
    const { sessions, log } = useRelay()
    await fromDatabase(() => sessions.end(asks.person.signIn, ({ id }) => id === asks.session))
    log(`sign-in: ${asks.person.signIn} signed out`)
  }
  await clearUserSession(event)
  return { signedOut: true }
})
