import { phrase } from '../../words/phrase'
import { isInPickupGroup } from '../company/lookups'
import { ownerSentence, refuse, type Refused } from './answers'
import type { Call, DeviceId, ExchangeState, ServiceName } from './model'
import { connectionOf, isEmergency, mayAnswerFromQueue } from './questions'
import type { AskedOfCall, Part, Service } from './service'

/**
 * What one may do to a call follows from one's role (operator, colleague, outside party) and one's part in it: each service says what it asks for
 * (`may`); without a word it is for who is in the call.
 */

/** What would bring others into a call, or put it where others take it. */
const joining: readonly ServiceName[] = ['singleStepConferenceCall', 'conferenceCall', 'parkCall', 'putInQueue', 'deflectCall']

export function partOf(state: ExchangeState, call: Call, device: DeviceId): Part {
  const own = connectionOf(call, device)
  if (own) return own.state !== 'alerting' ? 'member' : own.invitedBy ? 'invited' : 'rung'
  if (mayAnswerFromQueue(state, call, device)) return 'served'
  if (call.passing?.by === device || call.watched?.by === device || call.parked?.by === device) return 'watching'
  if (call.parked?.for === device) return 'kept'
  return call.connections.some(other => other.state === 'alerting' && !other.invitedBy && isInPickupGroup(state.company, device, other.device))
    ? 'near'
    : 'none'
}

/** The refusal that somebody meets who has no right to what they ask of a call; null when they have it. */
export function refusalOfRight(service: Service<never>, asked: AskedOfCall<never>): Refused | null {
  const { state, call, part } = asked
  const { device, service: name } = asked.request as { device: DeviceId, service: ServiceName }
  const ours = state.devices.has(device)
  if (!ours && !connectionOf(call, device)?.party) return refuse('unknownDevice', phrase('refusals.thereIsNoExtension', { device }))
  if (!ours && !service.outside) return refuse('notAllowed', phrase('refusals.thatIsForTelephonesOf'))
  // Somebody's emergency call is theirs alone: it is not picked up, moved, taken back or joined by anybody else.
  if (isEmergency(state, call) && (!connectionOf(call, device) || joining.includes(name)))
    return refuse('notPossibleNow', phrase('refusals.thatIsAnEmergencyCallNobody'))
  if (service.may) return service.may(asked as never)
  return part === 'member' ? null : refuse('notYourCall', ownerSentence(state, call))
}
