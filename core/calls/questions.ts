import type { Call, CallId, Connection, Device, DeviceId, ExchangeState } from './model'
import { isMailbox } from './names'

/** Questions about a state, answered without changing it. */

/** What a record holds under a key that comes from outside: never what every object has by birth. */
export function lookUp<T>(record: Record<string, T>, key: string): T | undefined {
  return Object.hasOwn(record, key) ? record[key] : undefined
}

export function connectionOf(call: Call, device: DeviceId): Connection | undefined {
  return call.connections.find(connection => connection.device === device)
}

/** The state of a device's connection in a call; undefined (ECMA-269: null) when the call or the connection is gone. */
export function connectionState(state: ExchangeState, call: CallId, device: DeviceId): Connection['state'] | undefined {
  return state.calls[call]?.connections.find(connection => connection.device === device)?.state
}

/** All calls in which the device has a connection. */
export function callsOf(state: ExchangeState, device: DeviceId): Call[] {
  return Object.values(state.calls).filter(call => connectionOf(call, device))
}

/** The call on which the device talks, if any: by law at most one. */
export function talkingCallOf(state: ExchangeState, device: DeviceId): Call | undefined {
  return Object.values(state.calls).find(call => connectionOf(call, device)?.state === 'connected')
}

/** The parties of a call other than the given device. */
export function othersOf(call: Call, device: DeviceId): Connection[] {
  return call.connections.filter(connection => connection.device !== device)
}

/** The people who are in the call and not only rung, queued or failed. */
export function membersOf(call: Call): Connection[] {
  return call.connections.filter(({ state, device }) => (state === 'connected' || state === 'held') && !isMailbox(device))
}

/** Two people who hear each other: more than one connection in state connected. */
export function isConversation(call: Call): boolean {
  return call.connections.filter(connection => connection.state === 'connected').length > 1
}

/** The one other party of a call between two, answered; undefined in a conference or before the answer. */
export function partnerOf(call: Call, device: DeviceId): Connection | undefined {
  const [other, ...more] = othersOf(call, device)
  return other && more.length === 0 && membersOf(call).includes(other) ? other : undefined
}

/** True for the console of an operator who is there, or who was a moment ago. */
export function isPresent(state: ExchangeState, device: DeviceId): boolean {
  const agent = state.agents[device]
  return agent !== undefined && (agent.attended || agent.leavesAt !== null)
}

export function isOperator(state: ExchangeState, device: DeviceId): boolean {
  return state.groups[state.settings.operators]?.members.includes(device) ?? false
}

/** True while the call waits in a queue that the device may answer from. */
export function mayAnswerFromQueue(state: ExchangeState, call: Call, device: DeviceId): boolean {
  return call.connections.some(connection => connection.state === 'queued' && state.groups[connection.device]?.members.includes(device))
}

/** True when a waiting call is offered to this member: they are there, serve its line and have not refused it. */
export function serves(state: ExchangeState, call: Call, device: DeviceId): boolean {
  if (call.refusedBy.includes(device)) return false
  if (!state.agents[device]) return state.devices[device]?.inService ?? false
  return isPresent(state, device) && !(call.line && call.line in state.agents[device].unserved)
}

/** True when a call waits in a queue that nobody serves. */
export function isOrphaned(state: ExchangeState, call: Call): boolean {
  return call.connections.some(({ device, state: its }) => its === 'queued' && state.groups[device] && !state.groups[device].members.some(member => serves(state, call, member)))
}

export function isBusy(state: ExchangeState, device: Device): boolean {
  return callsOf(state, device.id).length >= device.capacity
}

export function freeTrunk(state: ExchangeState): string | undefined {
  return Object.keys(state.trunks).find(trunk => hasFreeChannel(state, trunk))
}

export function hasFreeChannel(state: ExchangeState, trunk: string): boolean {
  let used = 0
  for (const call of Object.values(state.calls)) for (const connection of call.connections) if (connection.trunk === trunk) used++
  return used < (state.trunks[trunk]?.channels ?? 0)
}

/** The call that waits in a park slot, or undefined. */
export function parkedIn(state: ExchangeState, slot: DeviceId): Call | undefined {
  return Object.values(state.calls).find(call => call.parked?.slot === slot)
}

/** Calls parked for a person, the longest waiting first. */
export function reservedFor(state: ExchangeState, device: DeviceId): Call[] {
  return Object.values(state.calls).filter(call => call.parked?.for === device).sort((a, b) => a.parked!.at - b.parked!.at)
}

/** The three stretches of an operator's track; a parked call stands in its slot, before everybody. */
export type Stretch = 'arriving' | 'inHand' | 'passedOn'

/**
 * Where a call stands on one operator's track, or null when it is not on it.
 * A call stands in one stretch at most.
 */
export function stretchOf(state: ExchangeState, call: Call, device: DeviceId): Stretch | null {
  const own = connectionOf(call, device)
  if (own?.state === 'alerting') return 'arriving'
  if (own) return 'inHand'
  if (call.passing?.by === device) return 'passedOn'
  if (mayAnswerFromQueue(state, call, device) && serves(state, call, device)) return 'arriving'
  return null
}

/**
 * The places a caller can be in. By law a live call is in exactly one.
 * `waiting`: in a queue; `ringing`: at somebody's device; `talking`: with people or a mailbox; `onHold`; `parked`; `tone`: hears why it did not work.
 */
export type Place = 'waiting' | 'ringing' | 'talking' | 'onHold' | 'parked' | 'tone'

export function placesOf(call: Call): Place[] {
  const others = othersOf(call, call.calling)
  const states = new Set(others.filter(other => !other.invited).map(connection => connection.state))
  const caller = connectionOf(call, call.calling)?.state
  const places: Place[] = []
  if (states.has('queued')) places.push(call.parked ? 'parked' : 'waiting')
  if (states.has('alerting')) places.push('ringing')
  if (states.has('failed')) places.push('tone')
  if (caller === 'connected' && states.has('connected')) places.push('talking')
  else if (states.has('held') || (caller === 'held' && states.has('connected'))) places.push('onHold')
  return places
}

/** The earliest time at which a tick would change something, or null. */
export function nextDeadline(state: ExchangeState): number | null {
  let next: number | null = null
  const consider = (at: number | null) => {
    if (at !== null && (next === null || at < next)) next = at
  }
  for (const call of Object.values(state.calls)) consider(call.deadline)
  for (const device of Object.values(state.devices)) {
    consider(device.status.until)
    consider(device.doNotDisturbUntil)
  }
  for (const { leavesAt, unserved } of Object.values(state.agents)) {
    consider(leavesAt)
    for (const until of Object.values(unserved)) consider(until)
  }
  return next
}

/** Calls with a deadline at or before `now`, the earliest first. */
export function dueCalls(state: ExchangeState, now: number): CallId[] {
  return Object.values(state.calls)
    .filter(call => call.deadline !== null && call.deadline <= now)
    .sort((a, b) => a.deadline! - b.deadline! || a.id.localeCompare(b.id))
    .map(call => call.id)
}

/** True while a mailbox takes a message on the call. */
export function leavesMessage(call: Call): boolean {
  return call.connections.some(({ device }) => isMailbox(device))
}
