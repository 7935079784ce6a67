import type { Telephone } from '../company/company'
import type { Call, CallEvent, Cause, Decision, DeviceId, ExchangeState, RefusalCode } from './model'
import { deviceName } from './names'
import { isBusy, talkingCallOf } from './questions'

/** What the services of the call model answer with, and what several of them need to know. */

export interface Refused { refusal: { code: RefusalCode, sentence: string } }

export function refuse(code: RefusalCode, sentence: string): Refused {
  return { refusal: { code, sentence } }
}

export function accept(...events: CallEvent[]): Decision {
  return { events }
}

/** The name of a device or party for a sentence. */
export function nameOf(state: ExchangeState, device: DeviceId): string {
  return deviceName(state.company, device) ?? 'the outside party'
}

/** Who has the call now, for somebody who came too late or has nothing to do with it. */
export function ownerSentence(state: ExchangeState, call: Call): string {
  const owner = call.connections.find(connection => connection.device !== call.calling && connection.state !== 'queued')
  return owner
    ? `That call is with ${nameOf(state, owner.device)} now. The caller is looked after; you need do nothing.`
    : 'You are not part of that call.'
}

/** Whoever begins to talk elsewhere puts the present call on hold: nothing is cut off by answering or calling. */
export function holdingTheRest(state: ExchangeState, device: DeviceId, except: Call[] = []): CallEvent[] {
  const talking = talkingCallOf(state, device)
  return talking && !except.includes(talking) ? [{ type: 'held', call: talking.id, device }] : []
}

export type CannotRing = Extract<Cause, 'outOfService' | 'doNotDisturb' | 'busy'>

export function cannotRing(state: ExchangeState, telephone: Telephone): CannotRing | null {
  if (!telephone.inService) return 'outOfService'
  if (state.devices.get(telephone.id)?.doNotDisturb) return 'doNotDisturb'
  return isBusy(state, telephone) ? 'busy' : null
}

export const cannotRingWords: Record<CannotRing, string> = {
  outOfService: 'has no telephone connected',
  doNotDisturb: 'has do not disturb on',
  busy: 'is on the telephone',
}
