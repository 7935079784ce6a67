import { isInPickupGroup } from '../company/lookups'
import { ownerSentence, nameOf, refuse, type Refused } from './answers'
import type { Call, DeviceId, ExchangeState, Request } from './model'
import { connectionOf, isOperator, isOutside, mayAnswerFromQueue } from './questions'

/** What one may do to a call follows from one's role (operator, colleague, outside party) and one's part in it: all of it stands here. */

type WithCall = Extract<Request, { call: string }>

/**
 * The part that a device has in a call.
 * `member`: is in it, or hears its tone; `rung`; `invited`: rung to join; `served`: waits in a queue that the device is a member of;
 * `watching`: passed it on, parked it, or brought two parties outside together; `kept`: the caller waits in a slot for it; `near`: rings in its pickup group.
 */
export type Part = 'member' | 'rung' | 'invited' | 'served' | 'watching' | 'kept' | 'near' | 'none'

export function partOf(state: ExchangeState, call: Call, device: DeviceId): Part {
  const own = connectionOf(call, device)
  if (own) return own.state !== 'alerting' ? 'member' : own.invitedBy ? 'invited' : 'rung'
  if (mayAnswerFromQueue(state, call, device)) return 'served'
  if (call.passing?.by === device || call.watched?.by === device || call.parked?.by === device) return 'watching'
  if (call.parked?.for === device) return 'kept'
  return call.connections.some(other => other.state === 'alerting' && !other.invitedBy && isInPickupGroup(state.company, device, other.device)) ? 'near' : 'none'
}

/** What parties outside can do, and only on their own call; everything else is for telephones of ours. */
const outsideServices: readonly Request['service'][] = ['answerCall', 'clearConnection', 'generateDigits', 'sendUserInformation']

/** The refusal that somebody meets who has no right to what they ask of a call; null when they have it. */
export function refusalOfRight(state: ExchangeState, call: Call, request: WithCall): Refused | null {
  const { device, service } = request
  const ours = state.devices.has(device)
  if (!ours && !connectionOf(call, device)?.party) return refuse('unknownDevice', `There is no extension ${device}.`)
  if (!ours && !outsideServices.includes(service)) return refuse('notAllowed', 'That is for telephones of the company.')
  if (service === 'sendUserInformation' || service === 'generateDigits') return connectionOf(call, device) ? null : refuse('notYourCall', ownerSentence(state, call))
  const part = partOf(state, call, device)
  const operator = isOperator(state, device)
  switch (service) {
    case 'answerCall':
      return part === 'none' || part === 'watching' || part === 'kept' || part === 'near' ? refuse('alreadyAnswered', ownerSentence(state, call)) : null
    case 'directedPickupCall': {
      const from = call.connections.find(({ state: its, invitedBy }) => its === 'queued' || (its === 'alerting' && !invitedBy))
      if (part === 'member' || part === 'rung' || part === 'invited') return null
      if (!from && !isOutside(call)) return refuse('alreadyAnswered', ownerSentence(state, call))
      const may = operator || call.parked !== null || part !== 'none'
      return may ? null : refuse('notAllowed', `You may not pick up calls of ${from ? nameOf(state, from.device) : 'others'}.`)
    }
    case 'deflectCall': {
      if (request.from !== undefined && request.from !== device) return operator ? null : refuse('notAllowed', 'Only operators may move other people\'s calls.')
      if (call.parked && !operator && part !== 'watching') return refuse('notAllowed', 'Only operators, and whoever parked the caller, may send them on. You can take the call.')
      return part === 'rung' || part === 'member' || part === 'served' || (call.parked && (operator || part === 'watching')) ? null : refuse('notYourCall', ownerSentence(state, call))
    }
    case 'parkCall':
      // Who waits in a slot already is answered by the service itself.
      return call.parked || part === 'rung' || part === 'member' || part === 'served' ? null : refuse('notYourCall', ownerSentence(state, call))
    case 'clearConnection':
      return part === 'member' || part === 'rung' || part === 'invited' || part === 'served' ? null : refuse('notYourCall', ownerSentence(state, call))
    case 'clearCall':
      if (isOutside(call)) return operator || part === 'watching' ? null : refuse('notAllowed', 'Only operators may end a call between two parties outside.')
      if (part !== 'member') return refuse('notYourCall', ownerSentence(state, call))
      return call.conference?.by === device ? null : refuse('notAllowed', 'Only who leads the conference may end it for everybody. You can leave it.')
    case 'dropParty':
      if (part !== 'member') return refuse('notYourCall', ownerSentence(state, call))
      return call.conference?.by === device || connectionOf(call, request.party)?.invitedBy === device
        ? null
        : refuse('notAllowed', 'Only who leads the conference may take somebody out of it, and who asked somebody to join may call that off.')
    case 'setMicrophoneMute':
      if (part !== 'member') return refuse('notYourCall', ownerSentence(state, call))
      return request.party === device || call.conference?.by === device ? null : refuse('notAllowed', 'Only who leads the conference may mute somebody else.')
    default:
      return part === 'member' ? null : refuse('notYourCall', ownerSentence(state, call))
  }
}
