import { requirePerson } from '../../accounts/session'
import { fromDatabase } from '../../database/away'
import { useRelay } from '../../relay'
import { readParam } from '../../validation/read'

/** Ends one of one's own sessions: that browser is signed out at once. */
export default defineEventHandler(async (event) => {
  const { signIn } = await requirePerson(event)
  const wanted = readParam(event, 'id')
  const ended = await fromDatabase(() => useRelay().sessions.end(signIn, ({ name }) => name === wanted))
  if (!ended) throw createError({ statusCode: 404, message: 'There is no such session of yours: it may have ended already.' })
  return { ended: true }
})
