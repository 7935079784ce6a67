import type { Telephone } from '../company/company'
import { groupsOf, isMemberOf, lookUp } from '../company/lookups'
import type { Call, CallId, Connection, DeviceId, ExchangeState, LineId, Party, TrunkId } from './model'
import { isMailbox } from './names'

/** Questions about a state, answered without changing it. */

export function connectionOf(call: Call, device: DeviceId): Connection | undefined {
  return call.connections.find(connection => connection.device === device)
}

/** The state of a device's connection in a call; undefined (ECMA-269: null) when the call or the connection is gone. */
export function connectionState(state: ExchangeState, call: CallId, device: DeviceId): Connection['state'] | undefined {
  return state.calls.get(call)?.connections.find(connection => connection.device === device)?.state
}

/** All calls in which the device has a connection. */
export function callsOf(state: ExchangeState, device: DeviceId): Call[] {
  return (state.indexes.callsAt.get(device) ?? []).flatMap(id => state.calls.get(id) ?? [])
}

/** All calls in the order in which they began: a list made of them keeps its order while others come and go. */
export function callsByAge(state: ExchangeState): Call[] {
  return [...state.calls.values()].sort((a, b) => a.created - b.created || a.id.length - b.id.length || (a.id < b.id ? -1 : 1))
}

/** The call on which the device talks, if any: by law at most one. */
export function talkingCallOf(state: ExchangeState, device: DeviceId): Call | undefined {
  return callsOf(state, device).find(call => connectionOf(call, device)?.state === 'connected')
}

/** The parties of a call other than the given device. */
export function othersOf(call: Call, device: DeviceId): Connection[] {
  return call.connections.filter(connection => connection.device !== device)
}

/** The people who are in the call and not only rung or queued. */
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

/** Two parties outside talk with each other, and nobody of ours with them, not even on the mobile that rang along with their telephone. */
export function isOutside(call: Call): boolean {
  return call.connections.length > 1 && call.connections.every(({ party, along, state }) => party && !along && (state === 'connected' || state === 'held'))
}

/** The telephone of ours whose person is at this end: there, or on the mobile that rang along with it. */
export function telephoneOf(state: ExchangeState, { device, along }: Connection): DeviceId | undefined {
  return along ?? (state.devices.has(device) ? device : undefined)
}

/** True for the console of an operator who is there, or who was a moment ago. */
export function isPresent(state: ExchangeState, device: DeviceId): boolean {
  const agent = state.agents.get(device)
  return agent !== undefined && (agent.attended || agent.leavesAt !== null)
}

export function isOperator(state: ExchangeState, device: DeviceId): boolean {
  return isMemberOf(state.company, device, state.company.settings.operators)
}

/** True while the call waits in a queue that the device may answer from. */
export function mayAnswerFromQueue(state: ExchangeState, call: Call, device: DeviceId): boolean {
  return call.connections.some(connection => connection.state === 'queued' && isMemberOf(state.company, device, connection.device))
}

/** True while somebody is being asked for the caller. */
export function isAskedFor(state: ExchangeState, call: Call): boolean {
  return call.connections.some(({ device }) => state.devices.has(device) && callsOf(state, device).some(other => other.consultation === call.id))
}

/** The calls that wait in the queues that a telephone is a member of. */
export function waitingFor(state: ExchangeState, device: DeviceId): Call[] {
  return [...groupsOf(state.company, device)].flatMap(group => callsOf(state, group))
}

/** The queue in which a call waits, if it does; a park slot is none. */
export function queueOf(call: Call): Connection | undefined {
  return call.parked ? undefined : call.connections.find(({ state }) => state === 'queued')
}

/** Holders of ours who keep a caller on hold in the call while nobody talks with them: the longest first. */
export function holdersOf(state: ExchangeState, call: Call): Connection[] {
  if (isConversation(call) || call.connections.some(({ state: its, invitedBy }) => its === 'queued' || (its === 'alerting' && !invitedBy))) return []
  const waits = (holder: Connection) => membersOf(call).some(other => other !== holder)
  return call.connections.filter(holder => holder.state === 'held' && state.devices.has(holder.device) && waits(holder)).sort((a, b) => a.since - b.since)
}

/** There is something at which a telephone of ours rings and is answered: itself, a console, or the stand-in handset. */
export function isConnected(state: ExchangeState, id: DeviceId): boolean {
  const device = state.devices.get(id)
  if (!device || !lookUp(state.company.telephones, id)?.inService) return false
  return device.registered !== false || device.handset || state.agents.get(id)?.attended === true
}

export function isBusy(state: ExchangeState, { id, capacity }: Telephone): boolean {
  return (state.indexes.callsAt.get(id)?.length ?? 0) >= capacity
}

/** Channels of a trunk in use. */
export function channelsUsed(state: ExchangeState, trunk: TrunkId): number {
  return state.indexes.channels.get(trunk) ?? 0
}

/**
 * Channels of a trunk that can be taken; those kept for emergency calls count for such calls only. A trunk that was taken out of service has none, but for an
 * emergency.
 */
export function channelsFree(state: ExchangeState, trunk: TrunkId, emergency = false): number {
  const known = lookUp(state.company.trunks, trunk)
  const trouble = state.troubles.get(trunk)
  if (!known || (trouble?.outBy != null && !emergency)) return 0
  return Math.max(0, known.channels - (trouble?.faulty ?? 0) - (emergency ? 0 : known.kept) - channelsUsed(state, trunk))
}

/** The trunk with most free channels, so that none fills up while another is empty; undefined when all are busy. */
export function freeTrunk(state: ExchangeState, emergency = false): TrunkId | undefined {
  let best: { trunk: TrunkId, free: number, out: boolean } | undefined
  for (const trunk of Object.keys(state.company.trunks)) {
    const free = channelsFree(state, trunk, emergency)
    // Only an emergency call finds channels on a trunk that is out of service, and takes one only if there is no other.
    const out = state.troubles.get(trunk)?.outBy != null
    if (free > 0 && (!best || (best.out && !out) || (best.out === out && free > best.free))) best = { trunk, free, out }
  }
  return best?.trunk
}

/** True for a call to an emergency number. */
export function isEmergency(state: ExchangeState, call: Call): boolean {
  return call.connections.some(({ party }) => isEmergencyNumber(state, party))
}

export function isEmergencyNumber(state: ExchangeState, party: Party | undefined): boolean {
  return Boolean(party?.number && lookUp(state.company.shortNumbers, party.number)?.emergency)
}

/** The call that waits in a park slot, or undefined. */
export function parkedIn(state: ExchangeState, slot: DeviceId): Call | undefined {
  return callsOf(state, slot)[0]
}

/** Calls parked for a person, the longest waiting first. */
export function reservedFor(state: ExchangeState, device: DeviceId): Call[] {
  return Object.keys(state.company.slots)
    .flatMap(slot => parkedIn(state, slot) ?? [])
    .filter(call => call.parked?.for === device)
    .sort((a, b) => a.parked!.at - b.parked!.at)
}

/** Calls in which two parties outside talk through us, the longest first. */
export function outsideCalls(state: ExchangeState): Call[] {
  return callsByAge(state).filter(isOutside).sort((a, b) => (a.watched?.at ?? a.created) - (b.watched?.at ?? b.created))
}

/** The lines that other operators ask one to take. */
export function linesAskedOf(state: ExchangeState, device: DeviceId): { from: DeviceId, line: LineId }[] {
  return [...state.agents].flatMap(([from, { offers }]) => Object.entries(offers ?? {}).flatMap(([line, { to }]) => to === device ? [{ from, line }] : []))
}

/**
 * The places a caller can be in. By law a live call is in exactly one.
 * `waiting`: in a queue; `ringing`: at somebody's device; `talking`: with people or a mailbox; `onHold`; `parked`; `tone`: hears why it did not work.
 */
export type Place = 'waiting' | 'ringing' | 'talking' | 'onHold' | 'parked' | 'tone'

export function placesOf(call: Call): Place[] {
  const others = othersOf(call, call.calling)
  const states = new Set(others.filter(other => !other.invitedBy && !other.offeredBy).map(connection => connection.state))
  const caller = connectionOf(call, call.calling)?.state
  const places: Place[] = []
  // Somebody is rung who is to call back: nobody is on the line.
  if (call.callBack !== undefined && caller === 'alerting') places.push('ringing')
  if (states.has('queued')) places.push(call.parked ? 'parked' : 'waiting')
  if (states.has('alerting')) places.push('ringing')
  if (call.failed) places.push('tone')
  if (caller === 'connected' && states.has('connected')) places.push('talking')
  else if (states.has('held') || (caller === 'held' && states.has('connected'))) places.push('onHold')
  return places
}

/** True while a mailbox takes a message on the call. */
export function leavesMessage(call: Call): boolean {
  return call.connections.some(({ device }) => isMailbox(device))
}
