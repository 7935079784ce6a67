import { spoken } from '~~/words/phrase'
import { t } from '../language'
import type { Request } from '~~/core/calls/model'
import { wellFormed } from '~~/core/calls/text'
import type { RequestDone, RequestOutcome } from '~~/shared/requests'
import { useRelay } from '../relay'
import { wrongInput } from '../validation/read'
import { ExchangeSilent, ExchangeUnreachable, NotUnderstood } from './link'

/** What an endpoint that asks the exchange may answer as well. */
export const silence = { 504: 'The exchange was asked and has not answered: GET /api/requests/{id} tells what became of it.' }
export const refusals = { 409: 'Refused by the exchange: data.code and message say why and what became of the caller.', ...silence }

/**
 * Has the exchange carry out a request, once for each id.
 * @throws 409 with code and reason when it is refused; 503 when the exchange is away and nothing was asked; 504 when it was asked and has not answered
 */
export async function carryOut(id: string, request: Request): Promise<RequestDone> {
  try {
    const reply = await useRelay().link!.request(id, wellFormed(request))
    if (reply.refusal) throw createError({ statusCode: 409, message: spoken(t, reply.refusal.why), data: reply.refusal })
    return { seq: reply.seq, ...(reply.call && { call: reply.call }) }
  }
  catch (error) {
    throw said(error)
  }
}

/** What became of a request whose answer never came. */
export async function outcomeOf(id: string): Promise<RequestOutcome> {
  try {
    const reply = await useRelay().link!.inquire(id)
    if (!reply || reply.refusal) return { carriedOut: false, sentence: reply?.refusal ? spoken(t, reply.refusal.why) : null }
    return { carriedOut: true, sentence: null }
  }
  catch (error) {
    throw said(error)
  }
}

function said(error: unknown): unknown {
  if (error instanceof ExchangeSilent) return createError({ statusCode: 504, message: error.message, data: { unknown: true } })
  if (error instanceof NotUnderstood) return wrongInput(null, error.message)
  if (error instanceof ExchangeUnreachable) return createError({ statusCode: 503, message: error.message })
  return error
}
