import type { Request } from '~~/core/calls/model'
import type { RequestDone } from '~~/shared/requests'
import { useRelay } from '../relay'
import { ExchangeUnreachable } from './link'

/**
 * Has the exchange carry out a request, once for each id.
 * @throws 409 with code and sentence when it is refused; 503 when the exchange does not answer
 */
export async function carryOut(id: string, request: Request): Promise<RequestDone> {
  try {
    const reply = await useRelay().link!.request(id, request)
    if (reply.refusal) throw createError({ statusCode: 409, message: reply.refusal.sentence, data: reply.refusal })
    return { seq: reply.seq, ...(reply.call && { call: reply.call }) }
  }
  catch (error) {
    if (error instanceof ExchangeUnreachable) throw createError({ statusCode: 503, message: error.message })
    throw error
  }
}
