import type { ObjectSchema } from 'yup'
import type { Telephone } from '../company/company'
import type { Refused } from './answers'
import type { Call, CallId, Connection, Decision, DeviceId, ExchangeState, RequestOf, ServiceName } from './model'

/**
 * The part that a device has in a call.
 * `member`: is in it, or hears its tone; `rung`; `invited`: rung to join; `served`: waits in a queue that the device is a member of;
 * `watching`: passed it on, parked it, or brought two parties outside together; `kept`: the caller waits in a slot for it; `near`: rings in its pickup group.
 */
export type Part = 'member' | 'rung' | 'invited' | 'served' | 'watching' | 'kept' | 'near' | 'none'

interface AskedOfAll<S extends ServiceName> {
  state: ExchangeState
  request: RequestOf<S>
  /** The exchange's time. */
  now: number
}

export interface AskedOfCall<S extends ServiceName> extends AskedOfAll<S> {
  call: Call
  /** The connection of who asks: there wherever the right to ask needs one. */
  own: Connection
  part: Part
  operator: boolean
}

export interface AskedAtPlace<S extends ServiceName> extends AskedOfAll<S> {
  /** Of who asks. */
  telephone: Telephone
}

/** What a service is told, by what it is about: a call, a telephone or its place, or the exchange. */
export type Asked<S extends ServiceName>
  = RequestOf<S> extends { call: CallId } ? AskedOfCall<S> : RequestOf<S> extends { device: DeviceId } ? AskedAtPlace<S> : AskedOfAll<S>

/** One service of the call model: all that is known of it stands in its file in `services/`. */
export interface Service<S extends ServiceName> {
  /** What is asked, beside the service's name. Made when first needed: a browser needs none of it. */
  fields: () => ObjectSchema<object>
  /** From where people may ask for it: their console, and the stand-in handset, which does what a telephone or a caller does with hands and mouth. */
  askedBy: readonly ('console' | 'handset')[]
  /** Parties outside may ask for it too, on their own call. */
  outside?: true
  /** The refusal that somebody meets who has no right to ask it of a call; without it, whoever is in the call may. */
  may?: (asked: Asked<S>) => Refused | null
  decide: (asked: Asked<S>) => Decision
}
