import { phrase } from '../../../words/phrase'
import { accept, holdingTheRest, nameOf, ownerSentence, refuse, type Refused } from '../answers'
import { type FieldsOf, ofCall as fields } from '../fields'
import type { Call, Connection, Decision, DeviceId, ExchangeState } from '../model'
import { isPrompt } from '../call-backs/call-backs'
import { connectionOf, isConnected, isEmergency, isOutside, membersOf, partnerOf } from '../questions'
import type { AskedOfCall, Service } from '../service'
import { answered } from './answer-call'

declare module '../model' {
  interface Requests { directedPickupCall: FieldsOf<typeof fields> }
}

/** Takes a call that rings elsewhere, waits in a slot, was passed on and still rings, talks outside, or on the mobile that rang along with one's telephone. */
export const directedPickupCall: Service<'directedPickupCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  may: mayPickUp,
  decide: ({ state, call, request }) => pickedUp(state, call, request.device),
}

interface OfDevice { request: { device: DeviceId } }

/** Who may take a call that is elsewhere. */
export function mayPickUp(
  { state, call, part, operator, request: { device } }: Pick<AskedOfCall<'directedPickupCall'>, 'state' | 'call' | 'part' | 'operator'> & OfDevice,
): Refused | null {
  if (part === 'member' || part === 'rung' || part === 'invited') return null
  if (isEmergency(state, call)) return refuse('notPossibleNow', phrase('refusals.thatIsAnEmergencyCall'))
  if (isPrompt(call)) return refuse('notPossibleNow', phrase('refusals.thatRingsForACall'))
  const from = waitingAt(call)
  if (!from && onMobileOf(call, device)) return null
  if (!from && !isOutside(call)) return refuse('alreadyAnswered', ownerSentence(state, call))
  const may = operator || call.parked !== null || part !== 'none'
  return may ? null : refuse('notAllowed', phrase('refusals.youMayNotPickUp', { more: from ? nameOf(state, from.device) : 'others' }))
}

export function pickedUp(state: ExchangeState, call: Call, device: DeviceId): Decision {
  const own = connectionOf(call, device)
  if (own) return own.state === 'alerting' ? answered(state, call, device) : refuse('notPossibleNow', phrase('refusals.youAreInThatCall'))
  if (!isConnected(state, device)) return refuse('outOfService', phrase('refusals.yourTelephoneIsNotConnected'))
  // Whoever outside gives way to one who takes their caller back; nobody does in a conference.
  const from = waitingAt(call) ?? onMobileOf(call, device) ?? partnerOf(call, call.calling)
  return accept(...holdingTheRest(state, device), { type: 'established', call: call.id, device, ...(from && { from: from.device }) })
}

/** The mobile that rang along with this telephone, where its owner has answered. */
function onMobileOf(call: Call, device: DeviceId): Connection | undefined {
  return membersOf(call).find(({ along }) => along === device)
}

function waitingAt(call: Call): Connection | undefined {
  return call.connections.find(({ state, invitedBy }) => state === 'queued' || (state === 'alerting' && !invitedBy))
}
