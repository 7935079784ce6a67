import { accept, nameOf, refuse } from './answers'
import type { Call, Connection, Decision, DeviceId, ExchangeState } from './model'
import { connectionOf, isConversation, membersOf, othersOf } from './questions'
import { onward } from './targets'

/** Three and more in one call. Whoever leads may drop, mute and end (`rights.ts`); everybody may leave. */

/** Joins the one or more parties of two calls that the same telephone has. */
export function conferenceCall(state: ExchangeState, call: Call, own: Connection, other: Call | undefined): Decision {
  const there = other && connectionOf(other, own.device)
  if (!other || !there || other.id === call.id) return refuse('unknownCall', 'The other call has ended: there is nobody to join.')
  const joining = [...othersOf(call, own.device), ...othersOf(other, own.device)]
  const answered = joining.every(({ state: its, device, party }) => (its === 'connected' || its === 'held') && (state.devices.has(device) || party))
  if (!answered || othersOf(call, own.device).length === 0 || othersOf(other, own.device).length === 0) return refuse('notPossibleNow', 'Both calls must have been answered before they can be joined. Nobody was connected.')
  if (![own.state, there.state].includes('connected') || ![own.state, there.state].includes('held')) {
    return refuse('notPossibleNow', 'Talk on one of the two calls, with the other on hold, to join them. Nobody was connected.')
  }
  if (new Set(joining.map(({ device }) => device)).size < joining.length) return refuse('toCaller', 'They are in both calls already.')
  if (joining.length + 1 > state.company.settings.conferenceSize) return refuse('conferenceFull', `A conference holds ${state.company.settings.conferenceSize} at most. Nobody was connected.`)
  return accept({ type: 'conferenced', call: call.id, device: own.device, joined: other.id })
}

/** Rings somebody to join without talking to them first. */
export function singleStepConferenceCall(state: ExchangeState, call: Call, own: Connection, to: string): Decision {
  if (own.state !== 'connected' || !isConversation(call)) return refuse('notPossibleNow', 'People can be asked to join while you are talking with somebody.')
  if (call.connections.some(({ device, party }) => !state.devices.has(device) && !party)) return refuse('notPossibleNow', 'Nobody can be asked to join a voicemail.')
  if (call.connections.length >= state.company.settings.conferenceSize) return refuse('conferenceFull', `A conference holds ${state.company.settings.conferenceSize} at most.`)
  const next = onward(state, call, own.device, to, 'The others are still with you.', undefined)
  if ('refusal' in next) return next
  const [rings] = next.events
  if (next.events.length !== 1 || rings?.type !== 'delivered') return refuse('notPossibleNow', 'Only a person or an outside number can be asked to join.')
  return accept({ ...rings, invitedBy: own.device })
}

/** Takes one party out; the others go on. */
export function dropParty(call: Call, own: Connection, party: DeviceId): Decision {
  const other = connectionOf(call, party)
  if (!other || party === own.device) return refuse('notPossibleNow', 'They are not in this call any more.')
  if (own.state !== 'connected') return refuse('notPossibleNow', 'Take the call back first.')
  if (!other.invitedBy && membersOf(call).length < 3) return refuse('notPossibleNow', 'Only the two of you are left: end the call instead.')
  return accept({ type: 'connectionCleared', call: call.id, device: party, cause: 'normalClearing' })
}

/** Ends a conference, or a call between two parties outside, for everybody. */
export function clearCall(call: Call, device: DeviceId): Decision {
  return accept({ type: 'callCleared', call: call.id, device, cause: 'normalClearing' })
}

/** Oneself, or in a conference that one leads anybody, hears and is not heard. */
export function setMicrophoneMute(state: ExchangeState, call: Call, party: DeviceId, on: boolean): Decision {
  const target = connectionOf(call, party)
  if (!target || (target.state !== 'connected' && target.state !== 'held')) return refuse('notPossibleNow', `${nameOf(state, party)} is not talking in this call.`)
  return accept({ type: 'microphoneMute', call: call.id, device: party, on })
}
