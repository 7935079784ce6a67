import { personServices, readRequest, requestId, type RequestDone } from '~~/shared/requests'
import { requirePerson } from '../../accounts/session'
import { carryOut } from '../../exchange-link/carry-out'
import { readInput } from '../../validation/read'

/** A person asks the exchange for a service, with their own telephone. A refusal is 409 with its code and sentence. */
export default defineEventHandler(async (event): Promise<RequestDone> => {
  const user = await requirePerson(event)
  const body: unknown = await readBody(event)
  const request = readInput(() => readRequest(body, personServices))
  const id = readInput(() => requestId.validateSync((body as Record<string, unknown>).id))
  if (request.device !== user.device) {
    throw createError({ statusCode: 403, message: user.device ? 'You can only use your own telephone.' : 'No telephone belongs to your account.' })
  }
  // Ids of different people never meet.
  return carryOut(`${user.signIn}:${id}`, request)
})
