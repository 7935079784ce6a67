import { lookUp, pickupGroupOf } from '../company/lookups'
import { accept, holdingTheRest, nameOf, refuse } from './answers'
import type { Call, CallEvent, Connection, Decision, DeviceId, ExchangeState } from './model'
import { callsOf, connectionOf, isConversation, leavesMessage, membersOf, othersOf, partnerOf, talkingCallOf } from './questions'
import { unanswered } from './passing'
import { refusalOfRight } from './rights'

/** How a call is taken, held, taken back and ended. */

export function answerCall(state: ExchangeState, call: Call, device: DeviceId): Decision {
  const own = connectionOf(call, device)
  if (own && own.state !== 'alerting') return refuse('notPossibleNow', 'You are in that call already.')
  if (!lookUp(state.company.telephones, device)?.inService && !own?.party) return refuse('outOfService', 'Your telephone is not connected: connect it and try again.')
  return accept(...holdingTheRest(state, device), { type: 'established', call: call.id, device })
}

/** Takes a call that is not at the own telephone: parked, passed on by oneself, waiting in a queue, ringing at a colleague's, or talked on outside. */
export function directedPickupCall(state: ExchangeState, call: Call, device: DeviceId): Decision {
  const own = connectionOf(call, device)
  if (own) return own.state === 'alerting' ? answerCall(state, call, device) : refuse('notPossibleNow', 'You are in that call already.')
  if (!lookUp(state.company.telephones, device)?.inService) return refuse('outOfService', 'Your telephone is not connected: connect it and try again.')
  const from = call.connections.find(connection => connection.state === 'queued' || (connection.state === 'alerting' && !connection.invitedBy)) ?? outsideBeside(call)
  return accept(...holdingTheRest(state, device), { type: 'established', call: call.id, device, ...(from && { from: from.device }) })
}

/** Whoever outside gives way to one who takes their caller back; nobody does in a conference. */
function outsideBeside(call: Call): Connection | undefined {
  return partnerOf(call, call.calling)
}

/** Takes the call that has rung longest in a group. */
export function groupPickupCall(state: ExchangeState, device: DeviceId, group: DeviceId | null): Decision {
  const named = group === null ? undefined : lookUp(state.company.groups, group)
  if (group !== null && !named) return refuse('unallocatedNumber', 'There is no such group.')
  const ringing = (named ? named.members : pickupGroupOf(state.company, device))
    .filter(member => member !== device)
    .flatMap(member => callsOf(state, member).map(call => ({ call, from: connectionOf(call, member)! })))
    .filter(({ call, from }) => from.state === 'alerting' && !from.invitedBy && !connectionOf(call, device))
    .filter(({ call }) => !refusalOfRight(state, call, { service: 'directedPickupCall', device, call: call.id }))
    .sort((a, b) => a.from.since - b.from.since)
  if (!ringing[0]) return refuse('notPossibleNow', 'Nothing rings there at the moment.')
  return directedPickupCall(state, ringing[0].call, device)
}

export function holdCall(call: Call, own: Connection): Decision {
  if (own.state !== 'connected') return refuse('notPossibleNow', 'Only a call you are talking on can be put on hold.')
  if (membersOf(call).length < 2) return refuse('notPossibleNow', 'Nobody has answered yet: there is nobody to put on hold.')
  return accept({ type: 'held', call: call.id, device: own.device })
}

/** Takes a call back from hold; the call one is talking on goes on hold, so that this also swaps the two. */
export function retrieveCall(state: ExchangeState, call: Call, own: Connection): Decision {
  if (own.state !== 'held') return refuse('notPossibleNow', 'That call is not on hold with you.')
  return accept(...holdingTheRest(state, own.device), { type: 'retrieved', call: call.id, device: own.device })
}

/** Lets go of the colleague who is being asked and takes the caller back. */
export function reconnectCall(state: ExchangeState, consultation: Call, own: Connection): Decision {
  const primary = consultation.consultation ? state.calls.get(consultation.consultation) : undefined
  const waiting = primary && connectionOf(primary, own.device)
  if (!primary || !waiting || consultation.calling !== own.device) return refuse('notPossibleNow', 'The caller has hung up. End the call with the colleague when you are ready.')
  const talking = talkingCallOf(state, own.device)
  const holding = talking && talking !== primary && talking !== consultation ? holdingTheRest(state, own.device) : []
  const goesOn = membersOf(consultation).filter(member => member.device !== own.device).length > 1
  return accept(
    ...holding,
    { type: 'connectionCleared', call: consultation.id, device: own.device, cause: 'normalClearing' },
    // What the colleague has made a conference of goes on without us.
    ...(goesOn ? [] : [{ type: 'callCleared', call: consultation.id, device: own.device, cause: 'normalClearing' } as const]),
    ...(waiting.state === 'held' ? [{ type: 'retrieved', call: primary.id, device: own.device } as const] : []),
  )
}

/** Hangs up, declines what rings, or refuses what waits. Whoever leaves a conference leaves it to the others. */
export function clearConnection(state: ExchangeState, call: Call, device: DeviceId): Decision {
  const own = connectionOf(call, device)
  if (!own) return refuseWaiting(call, device)
  if (own.state === 'alerting') return accept(...unanswered(state, call, own, 'declined'))
  const others = othersOf(call, own.device)
  const staying = membersOf(call).filter(other => other !== own)
  const leaves: CallEvent = { type: 'connectionCleared', call: call.id, device: own.device, cause: staying.length > 0 || leavesMessage(call) ? 'normalClearing' : 'abandoned' }
  if (staying.length > 1) return accept(leaves)
  // An outside party hangs up whenever they like; one of ours must not cut off somebody who hears music, or who still waits for a third.
  if (own.state === 'held' && !own.party && partnerOf(call, own.device)?.state === 'connected') {
    return refuse('callerOnHold', 'That caller is on hold. Take the call back before you end it.')
  }
  const invited = others.find(other => other.invitedBy)
  if (invited && !own.party && staying.length > 0) {
    return refuse('notPossibleNow', `${nameOf(state, invited.device)} is still being rung to join. Wait for the answer, or drop them first: nobody has been cut off.`)
  }
  return accept(leaves, { type: 'callCleared', call: call.id, device: own.device, cause: leaves.cause })
}

/** An operator will not take a call that waits for all of them; it goes on waiting for the others. */
function refuseWaiting(call: Call, device: DeviceId): Decision {
  if (call.refusedBy.includes(device)) return refuse('notPossibleNow', 'You have refused that call already; it waits for the others.')
  return accept({ type: 'refused', call: call.id, device })
}

const digitsOfTelephone = /^[0-9*#A-D,]{1,40}$/

/** Digits as tones (ITU-T Q.23) for menus and pagers; a comma pauses, as in ITU-T V.250 dial strings. */
export function generateDigits(call: Call, own: Connection, typed: string): Decision {
  const digits = typed.replace(/[\s-]/g, '').toUpperCase()
  if (!digitsOfTelephone.test(digits)) return refuse('invalidNumber', 'Digits are 0 to 9, * # A B C D, and a comma for a pause; 40 at most.')
  if (own.state !== 'connected' || !isConversation(call)) return refuse('notPossibleNow', 'Digits can be sent once the other side has answered, and not while it is on hold.')
  return accept({ type: 'digitsGenerated', call: call.id, device: own.device, count: digits.replaceAll(',', '').length })
}
