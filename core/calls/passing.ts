import { accept, cannotRing, nameOf, ownerSentence, refuse } from './answers'
import type { Call, CallEvent, CallId, Cause, Connection, Decision, DeviceId, ExchangeState, Request } from './model'
import { isMailbox } from './names'
import { connectionOf, isOperator, mayAnswerFromQueue, membersOf, othersOf, parkedIn, partnerOf } from './questions'
import { onward } from './targets'
import { plainText } from './text'

/** How a call goes from hand to hand, waits in a slot, and comes back. */

const longestNote = 120
const withYou = 'Your caller is still with you.'
const where = 'The call is still where it was.'

type Refused = ReturnType<typeof refuse>

/** A call nobody took goes to the operators, never to nowhere. */
export function toOperators(state: ExchangeState, call: CallId, from: DeviceId, cause: Cause): CallEvent[] {
  const { operators } = state.settings
  return [{ type: 'diverted', call, device: from, to: operators, cause }, { type: 'queued', call, device: operators }]
}

/** A call that was passed on or parked in vain returns to whoever did it, if a telephone there can ring; else to the operators. */
export function comeBack(state: ExchangeState, call: Call, from: DeviceId, cause: Cause, now: number): CallEvent[] {
  const by = call.passing?.by ?? call.parked?.by
  const device = by === undefined ? undefined : state.devices[by]
  if (!device || isOperator(state, device.id) || connectionOf(call, device.id) || cannotRing(state, device)) return toOperators(state, call.id, from, cause)
  return [
    { type: 'diverted', call: call.id, device: from, to: device.id, cause },
    { type: 'delivered', call: call.id, device: device.id, deadline: now + state.settings.noAnswer },
  ]
}

/** What becomes of a call whose ringing at one telephone ended without an answer. */
export function unanswered(state: ExchangeState, call: Call, ringing: Connection, cause: 'noAnswer' | 'declined', now: number): CallEvent[] {
  if (ringing.invited) return [{ type: 'connectionCleared', call: call.id, device: ringing.device, cause }]
  const elsewhere = othersOf(call, ringing.device).some(other => other.state === 'alerting')
  if (cause === 'declined' && elsewhere) return [{ type: 'connectionCleared', call: call.id, device: ringing.device, cause }]
  if (call.passing) return comeBack(state, call, elsewhere ? call.passing.to : ringing.device, cause, now)
  // Rung by a recall, or called from outside: the operators look after it.
  if (call.recall || call.direction === 'inbound') return toOperators(state, call.id, ringing.device, cause)
  return [{ type: 'failed', call: call.id, device: ringing.device, cause, deadline: now + state.settings.failedTone }]
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

export function singleStepTransferCall(state: ExchangeState, call: Call, own: Connection, { to, note, distribution }: Extract<Request, { service: 'singleStepTransferCall' }>, now: number): Decision {
  const caller = handable(call, own)
  if ('refusal' in caller) return caller
  const next = onward(state, call, own.device, to, withYou, distribution, now)
  if ('refusal' in next) return next
  return accept({ type: 'transferred', call: call.id, device: own.device, to: next.target.id, ...noteOf(note) }, ...next.events)
}

/** Completes a consultation: the colleague takes the operator's place. While it still rings, it becomes a transfer that is watched like any other. */
export function transferCall(state: ExchangeState, call: Call, own: Connection, consultation: Call | undefined, now: number): Decision {
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
  if (connectionOf(call, colleague.device)) return refuse('toCaller', `${nameOf(state, colleague.device)} is the caller. ${withYou}`)
  return accept({
    type: 'transferred', call: call.id, device: own.device, to: colleague.device, joined: consultation.id,
    ...(colleague.state === 'alerting' && { deadline: now + state.settings.transferRecall }),
  })
}

/** Sends on a call that has not been answered by who asks, waits in a slot, or (for operators) rings or talks at somebody else's telephone. */
export function deflectCall(state: ExchangeState, call: Call, { device, to, from, note, distribution }: Extract<Request, { service: 'deflectCall' }>, now: number): Decision {
  const source = sourceOf(state, call, device, from)
  if ('refusal' in source) return source
  const next = onward(state, call, source.device === device ? device : '', to, where, distribution, now)
  if ('refusal' in next) return next
  return accept({ type: 'transferred', call: call.id, device: source.device, to: next.target.id, by: device, ...noteOf(note) }, ...next.events)
}

function sourceOf(state: ExchangeState, call: Call, device: DeviceId, from: DeviceId | undefined): { device: DeviceId } | Refused {
  if (from === undefined || from === device) {
    if (call.parked) return { device: call.parked.slot }
    const own = connectionOf(call, device)
    if (own?.state === 'alerting' && !own.invited) return own
    const queue = call.connections.find(({ state: its }) => its === 'queued')
    if (queue && mayAnswerFromQueue(state, call, device)) return queue
    return refuse(own ? 'notPossibleNow' : 'notYourCall', own ? 'You have answered that call: pass it on instead.' : ownerSentence(state, call))
  }
  if (!isOperator(state, device)) return refuse('notAllowed', 'Only operators may move other people\'s calls.')
  if (connectionOf(call, device)) return refuse('notPossibleNow', `You are in that call yourself: pass it on instead. ${where}`)
  const there = connectionOf(call, from)
  if (!there || there.party) return refuse('notYourCall', `${nameOf(state, from)} no longer has that call. ${where}`)
  if (there.state === 'alerting' && !there.invited) return there
  const caller = handable(call, there)
  return 'refusal' in caller ? refuse('notPossibleNow', `That call can't be moved at this moment. ${where}`) : there
}

/** Puts a caller into a slot, from where anybody takes the call; `for` makes that person's telephone say so. */
export function parkCall(state: ExchangeState, call: Call, { device, slot, for: reserved }: Extract<Request, { service: 'parkCall' }>, now: number): Decision {
  const own = connectionOf(call, device)
  if (call.parked) return refuse('notPossibleNow', `That caller is in ${nameOf(state, call.parked.slot)} already.`)
  if (own && own.state !== 'alerting') {
    const caller = handable(call, own)
    if ('refusal' in caller) return caller
  }
  else if (own?.invited || (!own && !mayAnswerFromQueue(state, call, device))) return refuse('notYourCall', ownerSentence(state, call))
  if (reserved !== null && !Object.hasOwn(state.devices, reserved)) return refuse('unallocatedNumber', `There is no extension ${reserved}. ${withYou}`)
  if (reserved === call.calling) return refuse('toCaller', `${nameOf(state, reserved)} is the caller. ${withYou}`)
  if (slot !== null && !Object.hasOwn(state.slots, slot)) return refuse('unallocatedNumber', `There is no such park slot. ${withYou}`)
  const free = slot ?? Object.keys(state.slots).find(id => !parkedIn(state, id))
  if (free === undefined) return refuse('slotsFull', `Every park slot is taken. ${withYou}`)
  if (parkedIn(state, free)) return refuse('slotTaken', `Somebody waits in ${nameOf(state, free)} already. ${withYou}`)
  return accept({ type: 'parked', call: call.id, device, slot: free, for: reserved, deadline: now + state.settings.parkRecall })
}
