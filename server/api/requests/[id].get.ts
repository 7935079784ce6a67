import { requestId, type RequestOutcome } from '~~/shared/requests'
import { requirePerson } from '../../accounts/session'
import { outcomeOf } from '../../exchange-link/carry-out'
import { readInput, readParam } from '../../validation/read'

/** What became of a request of one's own whose answer never came. */
export default defineEventHandler(async (event): Promise<RequestOutcome> => {
  const user = await requirePerson(event)
  const id = readInput(() => requestId.validateSync(readParam(event, 'id')))
  return outcomeOf(`${user.signIn}:${id}`)
})
