import type { Call, Connection, DeviceId, ExchangeState } from '../calls/model'
import { promises, urgency } from '../queues/promises'
import { callsByAge, callsOf, connectionOf, membersOf, othersOf, placesOf, queueOf } from '../calls/questions'
import { lookUp } from '../company/lookups'

/** What whoever answers for the whole sees of it: who waits where, against what was promised, and who has whom. Times are the exchange's, in milliseconds. */

export interface WaitingCall {
  call: Call
  /** Where: a queue, a slot, a telephone, or with whom on hold. */
  at: DeviceId
  how: 'waits' | 'rings' | 'parked' | 'onHold'
  since: number
  promise: number
  /** How much of the promise is used up: over 1 it is broken. */
  used: number
}

/** Everybody outside who waits for somebody, whose promise is used up most first. */
export function whoWaits(state: ExchangeState, now: number): WaitingCall[] {
  return callsByAge(state)
    .flatMap(call => howWaits(state, call, now) ?? [])
    .sort((a, b) => b.used - a.used)
}

/** How one caller waits; null when they do not. */
export function howWaits(state: ExchangeState, call: Call, now: number): WaitingCall | null {
  const wait = call.party && call.direction !== 'outbound' ? waitOf(state, call) : null
  return wait && { call, ...wait, used: urgency(wait, now) }
}

function waitOf(state: ExchangeState, call: Call): Omit<WaitingCall, 'call' | 'used'> | null {
  const { settings, groups, lines } = state.company
  if (call.parked) return { at: call.parked.slot, how: 'parked', since: call.parked.at, promise: settings.parkRecall }
  const queue = queueOf(call)
  const ofLine = lookUp(lines, call.line ?? '')?.promise ?? promises.direct
  // With the operators the line's own promise counts, as on their track, or that of a call that has come back.
  const toOperators = call.recall ? promises.recall : ofLine
  if (queue) {
    const promise = queue.device === settings.operators ? toOperators : lookUp(groups, queue.device)?.promise || ofLine
    return { at: queue.device, how: 'waits', since: queue.since, promise }
  }
  const [place] = placesOf(call)
  const others = othersOf(call, call.calling)
  const ringing = others.find(({ state: its, invitedBy, along }) => its === 'alerting' && !invitedBy && !along)
  if (place === 'ringing' && ringing)
    return { at: ringing.device, how: 'rings', since: call.passing?.at ?? ringing.since, promise: call.passing ? settings.transferRecall : ofLine }
  const holder = others.find(({ state: its }) => its === 'held')
  return place === 'onHold' && holder ? { at: holder.device, how: 'onHold', since: holder.since, promise: promises.hold } : null
}

export interface AtDesk {
  id: DeviceId
  attended: boolean
  /** Their calls: with whom, and in which way since when. */
  calls: { call: Call, own: Connection, other: Connection | null }[]
}

/** Every operator, and whom they have. */
export function operatorsNow(state: ExchangeState): AtDesk[] {
  return [...state.agents].map(([id, { attended }]) => ({
    id, attended,
    calls: callsOf(state, id).flatMap((call) => {
      const own = connectionOf(call, id)
      return own ? [{ call, own, other: othersOf(call, id)[0] ?? null }] : []
    }),
  }))
}

/** Conversations of three and more. */
export function conferencesNow(state: ExchangeState): { call: Call, since: number, members: Connection[] }[] {
  return callsByAge(state).flatMap(call => call.conference ? [{ call, since: call.conference.since, members: membersOf(call) }] : [])
}
