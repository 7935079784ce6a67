import { handsetServices, readRequest, requestId, type RequestDone } from '~~/shared/requests'
import { requirePerson } from '../accounts/session'
import { carryOut } from '../exchange-link/carry-out'
import { readInput } from '../validation/read'

/** A stand-in handset: any telephone of the demo, and any caller outside. In earnest only one's own telephone. */
export default defineEventHandler(async (event): Promise<RequestDone> => {
  const user = await requirePerson(event)
  const body: unknown = await readBody(event)
  const request = readInput(() => readRequest(body, handsetServices))
  const id = readInput(() => requestId.validateSync((body as Record<string, unknown>).id))
  const own = 'device' in request && request.device === user.device && request.service !== 'setHandset'
  if (!own && !useRuntimeConfig(event).demo) {
    throw createError({ statusCode: 403, message: 'Handsets of others can be held in the demo only.' })
  }
  return carryOut(`${user.signIn}:handset:${id}`, request)
})
