import { requirePerson, sessionOf } from '../../accounts/session'
import { useRelay } from '../../relay'

/** Where one is signed in oneself. */
export default defineEventHandler(async (event) => {
  const { signIn } = await requirePerson(event)
  return useRelay().sessions.of(signIn, await sessionOf(event))
})
