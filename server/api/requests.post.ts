import { personServices, readRequest, requestId, type RequestDone } from '~~/shared/requests'
import { requirePerson } from '../accounts/session'
import { ExchangeUnreachable } from '../exchange/link'
import { useRelay } from '../relay'
import { readInput } from '../validation/read'

/** A person asks the exchange for a service, with their own telephone. A refusal is 409 with its code and sentence. */
export default defineEventHandler(async (event): Promise<RequestDone> => {
  const user = await requirePerson(event)
  const body: unknown = await readBody(event)
  const request = readInput(() => readRequest(body, personServices))
  const id = readInput(() => requestId.validateSync((body as Record<string, unknown>).id))
  if (request.device !== user.extension) {
    throw createError({ statusCode: 403, message: user.extension ? 'You can only use your own telephone.' : 'No telephone belongs to your account.' })
  }
  try {
    // Ids of different people never meet.
    const reply = await useRelay().link!.request(`${user.signIn}:${id}`, request)
    if (reply.refusal) throw createError({ statusCode: 409, message: reply.refusal.sentence, data: reply.refusal })
    return { seq: reply.seq, ...(reply.call && { call: reply.call }) }
  }
  catch (error) {
    if (error instanceof ExchangeUnreachable) throw createError({ statusCode: 503, message: error.message })
    throw error
  }
})
