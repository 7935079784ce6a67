import { lookUp } from '../company/lookups'
import { accept, cannotRing, nameOf, ownerSentence, refuse, type Refused } from './answers'
import type { Call, CallEvent, CallId, Cause, Connection, Decision, DeviceId, ExchangeState, Request } from './model'
import { isMailbox } from './names'
import { connectionOf, isOperator, membersOf, othersOf, parkedIn, partnerOf } from './questions'
import { nextInGroup, onward, reach, targetOf } from './targets'
import { plainText } from './text'
import { lastMailbox, nightOf } from './timers'

/** How a call goes from hand to hand, waits in a slot, and comes back. */

const longestNote = 120
const withYou = 'Your caller is still with you.'
const where = 'The call is still where it was.'

/** A call nobody took goes to the operators, never to nowhere. */
export function toOperators(state: ExchangeState, call: CallId, from: DeviceId, cause: Cause): CallEvent[] {
  const { operators } = state.company.settings
  return [{ type: 'diverted', call, device: from, to: operators, cause }, { type: 'queued', call, device: operators }]
}

/** A call rings again at a colleague who is to look after it, if a telephone there can ring; else it waits for the operators. */
export function ringAgain(state: ExchangeState, call: Call, by: DeviceId | undefined, from: DeviceId, cause: Cause): CallEvent[] {
  const device = by === undefined ? undefined : lookUp(state.company.telephones, by)
  const rings = device && !isOperator(state, device.id) && (device.id === from || (!connectionOf(call, device.id) && !cannotRing(state, device)))
  if (!rings) return toOperators(state, call.id, from, cause)
  return [{ type: 'diverted', call: call.id, device: from, to: device.id, cause }, { type: 'delivered', call: call.id, device: device.id }]
}

/** A call that was passed on or parked in vain returns to whoever did it. */
export function comeBack(state: ExchangeState, call: Call, from: DeviceId, cause: Cause): CallEvent[] {
  return ringAgain(state, call, call.passing?.by ?? call.parked?.by, from, cause)
}

/** What becomes of a call whose ringing at one telephone ended without an answer: another one rings, the next of the group is tried, or it comes back. */
export function unanswered(state: ExchangeState, call: Call, ringing: Connection, cause: 'noAnswer' | 'declined' | 'outOfService'): CallEvent[] {
  const ends: CallEvent = { type: 'connectionCleared', call: call.id, device: ringing.device, cause }
  if (ringing.invitedBy) return [ends]
  const elsewhere = othersOf(call, ringing.device).some(other => other.state === 'alerting' && !other.invitedBy)
  if (cause === 'declined' && elsewhere) return [ends]
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
  const destinations = [to, nightOf(state, call), ...(from === operators ? [] : [operators])].filter(destination => !call.overflowed.includes(destination))
  for (const overflow of [...destinations, last]) {
    const target = targetOf(state, overflow)
    if ('refusal' in target || target.id === from || connectionOf(call, target.id)) continue
    const reached = reach(state, target, { call: call.id, except: call.connections.map(({ device }) => device) })
    if ('events' in reached) return [{ type: 'diverted', call: call.id, device: from, to: target.id, cause, overflow }, ...reached.events]
  }
  return [{ type: 'diverted', call: call.id, device: from, to: last, cause, overflow: last }, { type: 'established', call: call.id, device: last }]
}

/** The caller whom `own` can hand on: the only other party, connected, and not in a conference. */
function handable(call: Call, own: Connection): Connection | Refused {
  const other = partnerOf(call, own.device)
  if (call.conference && membersOf(call).length > 2) return refuse('notPossibleNow', 'A conference can\'t be passed on: leave it, and the others go on.')
  if ((own.state !== 'connected' && own.state !== 'held') || other?.state !== 'connected') {
    return refuse('notPossibleNow', 'Only a caller you are connected with can be passed on.')
  }
  return other
}

function noteOf(text: string | undefined): { note?: string } {
  const note = text && plainText(text, longestNote)
  return note ? { note } : {}
}

export function singleStepTransferCall(state: ExchangeState, call: Call, own: Connection, { to, note, distribution }: Extract<Request, { service: 'singleStepTransferCall' }>): Decision {
  const caller = handable(call, own)
  if ('refusal' in caller) return caller
  const next = onward(state, call, own.device, to, withYou, distribution)
  if ('refusal' in next) return next
  return accept({ type: 'transferred', call: call.id, device: own.device, to: next.target.id, ...noteOf(note) }, ...next.events)
}

/** Completes a consultation: the colleague takes the operator's place. While it still rings, it becomes a transfer that is watched like any other. */
export function transferCall(state: ExchangeState, call: Call, own: Connection, consultation: Call | undefined): Decision {
  const caller = handable(call, own)
  if ('refusal' in caller) return caller
  const asking = consultation && connectionOf(consultation, own.device)
  if (!consultation || !asking) return refuse('unknownCall', `The colleague has hung up. ${withYou}`)
  if (consultation.id === call.id || (consultation.consultation !== call.id && consultation.calling !== own.device)) {
    return refuse('notPossibleNow', `That is another caller, not somebody you asked: nobody is connected. ${withYou}`)
  }
  const others = othersOf(consultation, own.device)
  const colleague = others[0]
  if (others.length !== 1 || !colleague || isMailbox(colleague.device) || !['connected', 'held', 'alerting'].includes(colleague.state)) {
    return refuse('notPossibleNow', `${colleague ? nameOf(state, colleague.device) : 'The colleague'} can't be reached. ${withYou}`)
  }
  if (colleague.state === 'held') return refuse('notPossibleNow', `${nameOf(state, colleague.device)} has put you on hold: wait until they are back, or take your caller back. ${withYou}`)
  if (connectionOf(call, colleague.device)) return refuse('toCaller', `${nameOf(state, colleague.device)} is the caller. ${withYou}`)
  return accept({ type: 'transferred', call: call.id, device: own.device, to: colleague.device, joined: consultation.id })
}

/** Sends on a call that has not been answered by who asks, waits in a slot, or (for operators) rings or talks at somebody else's telephone. */
export function deflectCall(state: ExchangeState, call: Call, { device, to, from, note, distribution }: Extract<Request, { service: 'deflectCall' }>): Decision {
  const source = sourceOf(state, call, device, from)
  if ('refusal' in source) return source
  const next = onward(state, call, source.device === device ? device : '', to, where, distribution)
  if ('refusal' in next) return next
  return accept({ type: 'transferred', call: call.id, device: source.device, to: next.target.id, by: device, ...noteOf(note) }, ...next.events)
}

function sourceOf(state: ExchangeState, call: Call, device: DeviceId, from: DeviceId | undefined): { device: DeviceId } | Refused {
  if (from === undefined || from === device) {
    if (call.parked) return { device: call.parked.slot }
    const own = connectionOf(call, device)
    if (own?.state === 'alerting' && !own.invitedBy) return own
    const queue = call.connections.find(({ state: its }) => its === 'queued')
    if (queue && !own) return queue
    return refuse('notPossibleNow', own?.invitedBy ? 'You are asked to join that call: answer or decline.' : 'You have answered that call: pass it on instead.')
  }
  if (connectionOf(call, device)) return refuse('notPossibleNow', `You are in that call yourself: pass it on instead. ${where}`)
  const there = connectionOf(call, from)
  if (!there || there.party) return refuse('notYourCall', `${nameOf(state, from)} no longer has that call. ${where}`)
  if (there.state === 'alerting' && !there.invitedBy) return there
  const caller = handable(call, there)
  return 'refusal' in caller ? refuse('notPossibleNow', `That call can't be moved at this moment. ${where}`) : there
}

/** Puts a caller into a slot, from where anybody takes the call; `for` makes that person's telephone say so. */
export function parkCall(state: ExchangeState, call: Call, { device, slot, for: reserved }: Extract<Request, { service: 'parkCall' }>): Decision {
  const own = connectionOf(call, device)
  if (call.parked) return refuse('notPossibleNow', `That caller is in ${nameOf(state, call.parked.slot)} already.`)
  if (own && own.state !== 'alerting') {
    const caller = handable(call, own)
    if ('refusal' in caller) return caller
  }
  else if (own?.invitedBy) return refuse('notYourCall', ownerSentence(state, call))
  if (reserved !== null && !Object.hasOwn(state.company.telephones, reserved)) return refuse('unallocatedNumber', `There is no extension ${reserved}. ${withYou}`)
  if (reserved === call.calling) return refuse('toCaller', `${nameOf(state, reserved)} is the caller. ${withYou}`)
  if (slot !== null && !Object.hasOwn(state.company.slots, slot)) return refuse('unallocatedNumber', `There is no such park slot. ${withYou}`)
  const free = slot ?? Object.keys(state.company.slots).find(id => !parkedIn(state, id))
  if (free === undefined) return refuse('slotsFull', `Every park slot is taken. ${withYou}`)
  if (parkedIn(state, free)) return refuse('slotTaken', `Somebody waits in ${nameOf(state, free)} already. ${withYou}`)
  return accept({ type: 'parked', call: call.id, device, slot: free, for: reserved })
}
