import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import type { PlainKey } from '../../words/speaker'
import type { Telephone } from '../company/company'
import { lookUp } from '../company/lookups'
import type { Call, CallEvent, Cause, Decision, DeviceId, ExchangeState, RefusalCode } from './model'
import { deviceName } from './names'
import { connectionOf, isBusy, isConnected, talkingCallOf } from './questions'

/** What the services of the call model answer with, and what several of them need to know. */

export interface Refused { refusal: { code: RefusalCode, why: Phrase } }

export function refuse(code: RefusalCode, why: Phrase): Refused {
  return { refusal: { code, why } }
}

export function accept(...events: CallEvent[]): Decision {
  return { events }
}

/** The name of a device or party for a sentence. */
export function nameOf(state: ExchangeState, device: DeviceId): Spoken {
  return deviceName(state.company, device) ?? phrase('refusals.theOutsideParty')
}

/** Who has the call now, for somebody who came too late or has nothing to do with it. */
export function ownerSentence(state: ExchangeState, call: Call): Phrase {
  const owner = call.connections.find(connection => connection.device !== call.calling && connection.state !== 'queued')
  return owner
    ? phrase('refusals.thatCallIsWithNow', { name: nameOf(state, owner.device) })
    : phrase('refusals.youAreNotPartOf')
}

/** Whoever begins to talk elsewhere puts the present call on hold: nothing is cut off by answering or calling. */
export function holdingTheRest(state: ExchangeState, device: DeviceId, except: Call[] = []): CallEvent[] {
  const talking = talkingCallOf(state, device)
  return talking && !except.includes(talking) ? [{ type: 'held', call: talking.id, device }] : []
}

export type CannotRing = Extract<Cause, 'outOfService' | 'doNotDisturb' | 'busy'>

/**
 * Why a telephone can't ring.
 * @param number of whoever calls (E.164, or of ours): with some, do not disturb does not count
 */
export function cannotRing(state: ExchangeState, telephone: Telephone, number: string | null): CannotRing | null {
  if (!isConnected(state, telephone.id)) return 'outOfService'
  const { doNotDisturb, letThrough } = state.devices.get(telephone.id) ?? {}
  if (doNotDisturb && (number === null || !letThrough?.includes(number))) return 'doNotDisturb'
  return isBusy(state, telephone) ? 'busy' : null
}

/** The number of whoever calls, or for whom somebody passes the call on: E.164, or of ours; null when it is withheld. */
export function callingNumber({ company }: ExchangeState, call: Call): string | null {
  const calling = connectionOf(call, call.calling)
  return calling?.party ? calling.party.number : lookUp(company.telephones, call.calling)?.number ?? null
}

export const cannotRingWords: Record<CannotRing, PlainKey> = {
  outOfService: 'refusals.hasNoTelephoneConnected',
  doNotDisturb: 'refusals.hasDoNotDisturbOn',
  busy: 'refusals.isOnTheTelephone',
}
