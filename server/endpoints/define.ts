import type { H3Event } from 'h3'
import type { ISchema, ObjectSchema } from 'yup'
import type { SignedIn } from '~~/shared/people'
import type { Right } from '~~/shared/rights'
import type { Role } from '~~/shared/roles'
import { requirePerson, requireToken } from '../accounts/session'
import { addressOf } from '../accounts/address'
import { readInput, readParams, readQuery } from '../validation/read'
import { costs, takeShare, tooOften } from './shares'

/** Whoever may ask: everybody, whoever is signed in, another program that knows the token, or those who have one of these roles, or a right, now. */
export type MayAsk = 'everybody' | 'signedIn' | 'program' | readonly Role[] | { right: Right }

/** Operators, supervisors and administrators: who answers for the company. */
export const answering = ['operator', 'supervisor', 'administrator'] as const satisfies Role[]

/** What is known of an endpoint beside what it does: rights, input and answers are checked and described from it. */
export interface EndpointDescription {
  summary: string
  mayAsk: MayAsk
  /** The parts of the path in brackets. */
  params?: ObjectSchema<object>
  query?: ObjectSchema<object>
  body?: ISchema<unknown>
  /** How the body is written; JSON unless said otherwise. */
  bodyType?: 'text/csv' | 'application/x-www-form-urlencoded'
  answer?: ISchema<unknown>
  /** Its answer is long, or takes work: nobody gets many of them at once. */
  dear?: true
  /** Other answers than those that every such endpoint gives: by status, what it means. */
  also?: Record<number, string>
}

type Of<S> = S extends ISchema<infer T> ? T : undefined

export interface Asked<D extends EndpointDescription> {
  event: H3Event
  person: D['mayAsk'] extends 'everybody' | 'program' ? null : SignedIn
  /** The secret name of the session; empty where everybody may ask. */
  session: string
  params: Of<D['params']>
  query: Of<D['query']>
  body: Of<D['body']>
}

async function whoMayAsk(event: H3Event, mayAsk: MayAsk) {
  if (mayAsk === 'everybody') return null
  if (mayAsk !== 'program') return requirePerson(event, mayAsk === 'signedIn' ? [] : mayAsk)
  requireToken(event, useRuntimeConfig(event).occupancyToken)
  return null
}

/**
 * A route: who may ask is settled first, then what is asked is read; what can't be is answered with 422, the field and the remedy.
 * Texts are as they were sent: whoever keeps or passes them on makes them safe (`core/calls/text.ts`).
 * @param description also the source of the API's description
 * @param handle carries it out, and gives back what `answer` says
 */
export function defineEndpoint<const D extends EndpointDescription>(description: D, handle: (asked: Asked<D>) => Of<D['answer']> | Promise<Of<D['answer']>>) {
  const handler = defineEventHandler(async (event) => {
    const asks = await whoMayAsk(event, description.mayAsk)
    const wait = await takeShare(asks?.session ?? `address:${addressOf(event)}`, description.dear ? costs.dear : costs.any)
    if (wait !== null) {
      setHeader(event, 'retry-after', wait)
      throw createError({ statusCode: 429, message: tooOften(wait) })
    }
    const { params, query, body } = description
    const given: unknown = body && await readBody(event)
    return handle({
      event,
      person: asks?.person ?? null,
      session: asks?.session ?? '',
      params: params && readParams(event, params),
      query: query && readQuery(event, query),
      body: body && readInput(() => (body as ObjectSchema<object>).validateSync(given, { stripUnknown: false })),
    } as Asked<D>)
  })
  return Object.assign(handler, { endpoint: description as EndpointDescription })
}
