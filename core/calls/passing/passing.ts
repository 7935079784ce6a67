import { phrase } from '../../../words/phrase'
import type { Group } from '../../company/company'
import { lookUp } from '../../company/lookups'
import { callingNumber, cannotRing, refuse, type Refused } from '../answers'
import { isPrompt, promptOver } from '../call-backs/call-backs'
import { forwardOf } from '../forwarding/forwarding'
import type { Call, CallEvent, CallId, Cause, Connection, DeviceId, ExchangeState, Unanswered } from '../model'
import { connectionOf, isOperator, membersOf, othersOf, partnerOf } from '../questions'
import { leadsBack, nextInGroup, reach, sentOn, targetOfRule } from '../targets'
import { plainText } from '../text'
import { lastMailbox, nightOf } from '../timers'

/** How a call goes from hand to hand, waits in a slot, and comes back. */

const longestNote = 120
/** What became of the caller whom somebody tried to pass on in vain. */
export const withYou = phrase('refusals.yourCallerIsStillWithYou')

/** A call nobody took goes to the operators, never to nowhere. */
export function toOperators(state: ExchangeState, call: CallId, from: DeviceId, cause: Cause): CallEvent[] {
  const { operators } = state.company.settings
  return [{ type: 'diverted', call, device: from, to: operators, cause }, { type: 'queued', call, device: operators }]
}

/** A call rings again at a colleague who is to look after it, if a telephone there can ring; else it waits for the operators. */
export function ringAgain(state: ExchangeState, call: Call, by: DeviceId | undefined, from: DeviceId, cause: Cause): CallEvent[] {
  const device = by === undefined ? undefined : lookUp(state.company.telephones, by)
  const mayRing = device && !connectionOf(call, device.id) && !cannotRing(state, device, callingNumber(state, call))
  const rings = device && !isOperator(state, device.id) && (device.id === from || mayRing)
  if (!rings) return toOperators(state, call.id, from, cause)
  return [{ type: 'diverted', call: call.id, device: from, to: device.id, cause }, { type: 'delivered', call: call.id, device: device.id }]
}

/** A call that was passed on or parked in vain returns to whoever did it. */
export function comeBack(state: ExchangeState, call: Call, from: DeviceId, cause: Cause): CallEvent[] {
  return ringAgain(state, call, call.passing?.by ?? call.parked?.by, from, cause)
}

/** What becomes of a call whose ringing at one telephone ended without an answer: another one rings, the next of the group is tried, or it comes back. */
export function unanswered(state: ExchangeState, call: Call, ringing: Connection, cause: Unanswered): CallEvent[] {
  const ends: CallEvent = { type: 'connectionCleared', call: call.id, device: ringing.device, cause }
  // Asked to join, or rung by a queue in which the call keeps its place.
  if (isPrompt(call)) return promptOver(call, ringing.device, cause)
  if (ringing.invitedBy || ringing.offeredBy) return [ends]
  const elsewhere = othersOf(call, ringing.device).some(other => other.state === 'alerting' && !other.invitedBy)
  if (cause !== 'noAnswer' && elsewhere) return [ends]
  const forward = cause === 'noAnswer' && !elsewhere && !call.hunting ? forwardOf(state, ringing.device, 'noAnswer', call) : undefined
  const except = call.connections.map(({ device }) => device)
  const further = forward && sentOn(state, ringing.device, forward.to, { call: call.id, except })
  if (further) return [ends, ...further]
  const next = elsewhere ? undefined : nextInGroup(state, call)
  if (next) return [ends, { type: 'delivered', call: call.id, device: next, group: call.hunting!.group }]
  const rang = call.hunting && call.hunting.tried.length > 1 ? call.hunting.group : ringing.device
  if (call.passing) return comeBack(state, call, rang, cause)
  // Rung by a recall, or called from outside: the operators look after it.
  if (call.recall || call.direction === 'inbound') return toOperators(state, call.id, rang, cause)
  return [{ type: 'failed', call: call.id, device: rang, cause }]
}

/**
 * Sends a call that waits in vain to another destination, and on from there to the operators or into a mailbox when nobody there can be reached either.
 * No destination is tried twice, so that rules which lead in a circle end in a mailbox.
 */
export function sendAway(state: ExchangeState, call: Call, from: DeviceId, to: string, cause: Cause): CallEvent[] {
  const { operators } = state.company.settings
  const last = lastMailbox(state, call)
  const destinations = [to, ...(from === operators ? [] : [operators]), nightOf(state, call)].filter(destination => !call.overflowed.includes(destination))
  for (const overflow of [...destinations, last]) {
    const target = targetOfRule(state, overflow)
    if ('refusal' in target || target.id === from || connectionOf(call, target.id) || leadsBack(state, target, { call: call.id })) continue
    const reached = reach(state, target, { call: call.id, except: call.connections.map(({ device }) => device) })
    if ('events' in reached) return [{ type: 'diverted', call: call.id, device: from, to: target.id, cause, overflow }, ...reached.events]
  }
  return [{ type: 'diverted', call: call.id, device: from, to: last, cause, overflow: last }, { type: 'established', call: call.id, device: last }]
}

/** Where a group rings nobody waits: its members ring for whoever was sent to it, or they go on as from any group where nobody is free. */
export function ringInstead(state: ExchangeState, call: Call, group: Group): CallEvent[] {
  const reached = reach(state, { kind: 'group', id: group.id, group }, { call: call.id, except: call.connections.map(({ device }) => device) })
  return 'events' in reached
    ? [{ type: 'diverted', call: call.id, device: group.id, to: group.id, cause: 'noAnswer' }, ...reached.events]
    : sendAway(state, call, group.id, group.overflow.to, 'nobodyServes')
}

/** The caller whom `own` can hand on: the only other party, connected, and not in a conference. */
export function handable(call: Call, own: Connection): Connection | Refused {
  const other = partnerOf(call, own.device)
  if (call.conference && membersOf(call).length > 2) return refuse('notPossibleNow', phrase('refusals.aConferenceCantBePassed'))
  if ((own.state !== 'connected' && own.state !== 'held') || other?.state !== 'connected') {
    return refuse('notPossibleNow', phrase('refusals.onlyACallerYouAre'))
  }
  return other
}

/** A line of text for whoever it rings at, if there is anything to say. */
export function noteOf(text: string | undefined): { note?: string } {
  const note = text && plainText(text, longestNote)
  return note ? { note } : {}
}
