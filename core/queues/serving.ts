import type { Call, DeviceId, ExchangeState } from '../calls/model'
import { isConnected, isPresent, queueOf } from '../calls/questions'
import { lookUp } from '../company/lookups'

/** Who serves a queue: the one rule, for whom it rings, who is sent on because nobody is there, what callers hear of their wait, and what is seen of it. */

/**
 * `free`: can take a call of the queue now; `busy`: in a moment, being on a call or having work to do after one; `paused`: is away from this queue alone;
 * `away`: can't take any.
 */
export type MemberPlace = 'free' | 'busy' | 'paused' | 'away'

/** @param queue a queue or a group; undefined: any */
export function memberPlace(state: ExchangeState, queue: DeviceId | undefined, member: DeviceId): MemberPlace {
  const device = state.devices.get(member)
  if (!device || !isConnected(state, member) || device.doNotDisturb || device.status.reason) return 'away'
  if (state.agents.has(member) && !isPresent(state, member)) return 'away'
  // Where a telephone sends all its calls on, nothing rings; who answers from a list of their own accord still can.
  if (device.forwarding?.always && rings(state, queue)) return 'away'
  const absence = queue === undefined ? undefined : device.absences?.[queue]
  if (absence && absence.state !== 'wrapUp') return 'paused'
  return absence || state.indexes.callsAt.has(member) ? 'busy' : 'free'
}

function rings({ company }: ExchangeState, queue: DeviceId | undefined): boolean {
  const group = lookUp(company.groups, queue ?? '')
  return group !== undefined && (group.distribution !== 'queue' || group.ringing !== 'none')
}

/** True for somebody who takes the calls of a queue now or in a moment. */
export function isServing(place: MemberPlace): boolean {
  return place === 'free' || place === 'busy'
}

/** True when a waiting call is offered to this member: they serve its queue, have not refused it, and serve its line (or it has come back to them). */
export function serves(state: ExchangeState, call: Pick<Call, 'refusedBy' | 'line' | 'recall' | 'connections'>, member: DeviceId): boolean {
  const queue = call.connections.find(({ state: its }) => its === 'queued')
  if (!isServing(memberPlace(state, queue?.device, member))) return false
  if (call.refusedBy.includes(member) || call.connections.some(({ device: party, offeredBy }) => party === member && !offeredBy)) return false
  const agent = state.agents.get(member)
  return !agent || call.recall !== null || !call.line || !(call.line in agent.unserved)
}

/** True when a call waits in a queue that nobody serves. */
export function isOrphaned(state: ExchangeState, call: Call): boolean {
  const queue = queueOf(call)
  return queue !== undefined && !state.company.groups[queue.device]?.members.some(member => serves(state, call, member))
}
