import { Map as PersistentMap } from 'immutable'
import { changedCompany } from '../company/changes'
import type { Agent, Call, CallEvent, CallId, Connection, ConnectionState, Device, DeviceId, ExchangeState, NumberedEvent, Step } from './model'
import { isMailbox } from './names'
import { reindex, reindexAll, reindexPlaces, retimeCall } from './indexes'
import { quietDevice } from './device'
import { isOutside } from './questions'

/** A story longer than this keeps its beginning and its latest steps: no caller can fill the memory. */
const longestStory = 120
const keptBeginning = 20
const outlivedKept = 60

type EventOf<T extends NumberedEvent['type']> = Extract<NumberedEvent, { type: T }>
type OfCall = Extract<NumberedEvent, { call: CallId }>
type CallChange = Exclude<OfCall, { type: 'originated' | 'callCleared' }>

/**
 * The state after an event. Pure: the old state stays as it was and shares what did not change.
 * An event about a call or device that the state does not know changes nothing but the sequence number.
 */
export function evolve(state: ExchangeState, event: NumberedEvent): ExchangeState {
  const next: ExchangeState = { ...state, seq: event.seq, time: Math.max(state.time, event.at) }
  switch (event.type) {
    case 'doNotDisturb':
      return withDevice(state, next, event.device, { doNotDisturb: event.on, doNotDisturbBy: event.by, doNotDisturbUntil: event.until })
    case 'statusChanged':
      return withDevice(state, next, event.device, { status: { reason: event.reason, since: event.at, until: event.until } })
    case 'handsetChanged':
      return withDevice(state, next, event.device, { handset: event.on })
    case 'agentStateChanged':
      return withAgent(state, next, event.device, () => ({ attended: event.attended, leavesAt: event.leavesAt }))
    case 'lineServed':
      return withAgent(state, next, event.device, ({ unserved: { [event.line]: _now, ...others } }) => ({ unserved: event.on ? others : { ...others, [event.line]: event.until } }))
    case 'numberBlocked':
      return { ...next, blocked: state.blocked.set(event.number, { reason: event.reason, by: event.device, at: event.at }) }
    case 'numberUnblocked':
      return { ...next, blocked: state.blocked.delete(event.number) }
    case 'noteDismissed':
      return { ...next, outlived: state.outlived.filter(note => note.call !== event.note || note.for !== event.device) }
    case 'clockAdjusted':
      return reindexAll({ ...next, clockOffset: event.offset })
    case 'configured':
      return configured(state, next, event)
    case 'concealed':
      return next
    case 'originated':
      next.serial = state.serial + 1
      next.calls = state.calls.set(event.call, begun(event))
      reindex(state, next, [event.call])
      reindexPlaces(state, next, [event.device])
      return next
    default: {
      const call = state.calls.get(event.call)
      if (!call) return next
      return event.type === 'callCleared' ? cleared(state, next, call, event) : changed(state, next, call, event)
    }
  }
}

/** The state under a new configuration. A telephone that the company has no longer stays until its last call has ended. */
function configured(state: ExchangeState, next: ExchangeState, { version, changes, at }: EventOf<'configured'>): ExchangeState {
  const company = changedCompany(state.company, version, changes)
  const added = Object.keys(company.telephones).filter(id => !state.devices.has(id))
  const removed = changes.flatMap(change => change.part === 'telephones' && !change.value && !state.indexes.callsAt.has(change.id) ? [change.id] : [])
  const operators = company.groups[company.settings.operators]?.members ?? []
  return reindexAll({
    ...next, company,
    devices: state.devices.withMutations(devices => devices.merge(added.map((id): [DeviceId, Device] => [id, quietDevice(at)])).deleteAll(removed)),
    agents: PersistentMap(operators.map((id): [DeviceId, Agent] => [id, state.agents.get(id) ?? { attended: false, leavesAt: null, unserved: {} }])),
  })
}

/** The calls that an event of some calls may change: those, and the others that their people have. */
function touchedBy(state: ExchangeState, calls: readonly Call[]): Set<CallId> {
  const touched = new Set<CallId>()
  for (const call of calls) {
    touched.add(call.id)
    if (call.consultation) touched.add(call.consultation)
    for (const { device } of call.connections) if (state.devices.has(device)) for (const other of state.indexes.callsAt.get(device) ?? []) touched.add(other)
  }
  return touched
}

/** Many events at once. */
export function evolveAll(state: ExchangeState, events: readonly NumberedEvent[]): ExchangeState {
  return events.reduce(evolve, state)
}

/** Gives events their places after a state's last, all at one time. */
export function numbered(state: ExchangeState, events: readonly CallEvent[], at: number): NumberedEvent[] {
  return events.map((event, index) => ({ ...event, seq: state.seq + 1 + index, at }))
}

function withDevice(state: ExchangeState, next: ExchangeState, id: DeviceId, change: Partial<Device>): ExchangeState {
  const device = state.devices.get(id)
  if (!device) return next
  next.devices = state.devices.set(id, { ...device, ...change })
  next.indexes = { ...state.indexes }
  reindexPlaces(state, next, [id])
  return next
}

function withAgent(state: ExchangeState, next: ExchangeState, id: DeviceId, change: (agent: Agent) => Partial<Agent>): ExchangeState {
  const agent = state.agents.get(id)
  if (!agent) return next
  next.agents = state.agents.set(id, { ...agent, ...change(agent) })
  next.indexes = { ...state.indexes }
  reindexPlaces(state, next, [id])
  for (const call of state.indexes.callsAt.get(id) ?? []) retimeCall(next, call)
  return next
}

function begun(event: EventOf<'originated'>): Call {
  return {
    id: event.call,
    direction: event.direction,
    calling: event.device,
    dialled: event.dialled,
    line: event.line,
    created: event.at,
    party: event.party ?? null,
    connections: [connection(event, 'connected')],
    passing: null,
    hunting: null,
    failed: null,
    watched: null,
    overflowed: [],
    recall: null,
    parked: null,
    conference: null,
    consultation: event.consultation ?? null,
    consulted: null,
    refusedBy: [],
    account: event.account ?? null,
    caption: null,
    story: [{ at: event.at, type: 'originated', device: event.device }],
  }
}

function connection(event: EventOf<'originated' | 'delivered'>, state: ConnectionState): Connection {
  return {
    device: event.device,
    state,
    since: event.at,
    ...(event.party && { party: event.party, trunk: event.trunk }),
    ...('invitedBy' in event && event.invitedBy && { invitedBy: event.invitedBy }),
  }
}

/** The state after an event within a call that goes on. */
function changed(state: ExchangeState, next: ExchangeState, call: Call, event: CallChange): ExchangeState {
  const joined = 'joined' in event && event.joined ? state.calls.get(event.joined) : undefined
  const then = watchedOutside(changedCall(call, event, joined), call, event)
  const asks = then.connections.some(({ device }) => device === call.calling)
  const after = ledBySomebody(then.consultation && !asks ? { ...then, consultation: null } : then, state)
  const touched = touchedBy(state, joined ? [call, joined, after] : [call, after])
  let calls = state.calls.set(call.id, after)
  if (joined) calls = forgotten(calls.delete(joined.id), touched, joined.id)
  const primary = call.consultation ? calls.get(call.consultation) : undefined
  if (primary) calls = calls.set(primary.id, heardOfConsultation(primary, call, event))
  const gone = [...call.connections, ...(joined?.connections ?? [])].filter(({ device }) => !after.connections.some(other => other.device === device))
  // Whoever has handed a caller on asks for them no longer.
  for (const { device } of gone) calls = forgotten(calls, touched, call.id, device)
  if ('party' in event && event.party) next.serial = state.serial + 1
  return settledAt(state, next, calls, touched, gone, after.connections, event.at)
}

/** The state with its calls as they are now; telephones that have just been left by their last call are free. */
function settledAt(state: ExchangeState, next: ExchangeState, calls: ExchangeState['calls'], touched: Iterable<CallId>, gone: readonly Connection[], there: readonly Connection[], at: number): ExchangeState {
  next.calls = calls
  reindex(state, next, touched)
  for (const { device } of gone) {
    const left = next.devices.get(device)
    if (!left || next.indexes.callsAt.has(device)) continue
    next.devices = next.company.telephones[device] ? next.devices.set(device, { ...left, freeSince: at }) : next.devices.delete(device)
  }
  const came = there.filter(({ device }) => !state.indexes.callsAt.has(device))
  reindexPlaces(state, next, [...gone, ...came].map(({ device }) => device))
  return next
}

/** Who brought two parties outside together watches them, until they are released or somebody of ours is with them again. */
function watchedOutside(then: Call, before: Call, event: CallChange): Call {
  if (!isOutside(then)) return then.watched ? { ...then, watched: null } : then
  if (then.watched || event.type === 'released' || isOutside(before)) return then
  return { ...then, watched: { by: before.passing?.by ?? event.device, at: event.at } }
}

/** A conference whose leader has gone is led by whoever of ours has been in it longest. */
function ledBySomebody(call: Call, state: ExchangeState): Call {
  const { conference } = call
  if (!conference || call.connections.some(({ device }) => device === conference.by)) return call
  const [longest] = call.connections.filter(({ device, state: its }) => state.devices.has(device) && its !== 'alerting').sort((a, b) => a.since - b.since)
  const by = longest?.device ?? null
  // Whom nobody can let speak again is heard again.
  const connections = by === null ? call.connections.map(candidate => muted(candidate, false)) : call.connections
  return by === conference.by ? call : { ...call, connections, conference: { ...conference, by } }
}

/** The state after a call has ended: nothing refers to it any more. */
function cleared(state: ExchangeState, next: ExchangeState, call: Call, event: EventOf<'callCleared'>): ExchangeState {
  const touched = touchedBy(state, [call])
  next.outlived = outlivedAfter(state, call, event.at)
  return settledAt(state, next, forgotten(state.calls.delete(call.id), touched, call.id), touched, call.connections, [], event.at)
}

/** Nobody of `among` is asked any more for the caller of a call that has ended, or that whoever asked has left. */
function forgotten(calls: ExchangeState['calls'], among: Iterable<CallId>, ended: CallId, by?: DeviceId): ExchangeState['calls'] {
  let after = calls
  for (const id of among) {
    const other = after.get(id)
    if (other && other.consultation === ended && (by === undefined || other.calling === by)) after = after.set(id, { ...other, consultation: null })
  }
  return after
}

/** What a held caller's call tells of the colleague who is being asked. That whoever asks hangs up is no news to them. */
function heardOfConsultation(primary: Call, call: Call, event: CallChange): Call {
  switch (event.type) {
    case 'delivered':
    case 'queued': {
      const step: Step = { at: event.at, type: 'consulted', device: call.calling, to: event.device }
      return { ...primary, consulted: null, story: withStep(primary.story, step) }
    }
    case 'failed':
    case 'connectionCleared': {
      if (event.device === call.calling) return primary
      return { ...primary, consulted: { device: event.device, cause: event.cause, rang: event.at - (connectionSince(call, event.device) ?? event.at), at: event.at } }
    }
    default: return primary
  }
}

function outlivedAfter(state: ExchangeState, { id, parked, party, calling }: Call, at: number): ExchangeState['outlived'] {
  if (!parked?.for) return state.outlived
  return [...state.outlived, { call: id, for: parked.for, slot: parked.slot, by: parked.by, party, caller: calling, since: parked.at, ended: at }].slice(-outlivedKept)
}

function changedCall(call: Call, event: CallChange, joined: Call | undefined): Call {
  switch (event.type) {
    case 'callInformation': return { ...call, caption: { device: event.device, text: event.text, at: event.at } }
    case 'digitsGenerated': return call
    case 'released': return { ...call, watched: null }
    case 'microphoneMute': return { ...call, connections: call.connections.map(candidate => candidate.device === event.device ? muted(candidate, event.on) : candidate) }
  }
  const told = { ...call, story: withStep(call.story, stepOf(event)) }
  switch (event.type) {
    case 'queued':
      return { ...told, hunting: null, refusedBy: [], connections: [...call.connections, { device: event.device, state: 'queued', since: event.at }] }
    case 'delivered':
      return { ...told, ...(!event.invitedBy && { hunting: huntingAfter(call, event) }), party: call.party ?? event.party ?? null, connections: [...call.connections, connection(event, 'alerting')] }
    case 'established': return answered(told, event)
    case 'held': return { ...told, connections: withState(call.connections, event.device, 'held', event.at) }
    case 'retrieved': return { ...told, connections: withState(call.connections, event.device, 'connected', event.at) }
    case 'transferred': return transferred(told, event, joined)
    case 'conferenced': {
      const newcomers = joined?.connections.filter(({ device }) => device !== event.device) ?? []
      return {
        ...told, recall: null, consulted: null,
        conference: call.conference ?? { by: event.device, since: event.at },
        connections: [...withState(call.connections, event.device, 'connected', event.at), ...newcomers],
      }
    }
    case 'parked': {
      const rest = without(settled(call.connections), event.device)
      return {
        ...told, passing: null, hunting: null, recall: null, consulted: null, refusedBy: [], overflowed: [], calling: rest[0]!.device,
        parked: { slot: event.slot, by: event.device, for: event.for, at: event.at },
        connections: [...rest, { device: event.slot, state: 'queued', since: event.at }],
      }
    }
    case 'diverted': {
      const connections = without(settled(call.connections), event.device)
      // Whoever is left behind by the one who called is the one to be served now.
      const calling = event.device === call.calling ? connections[0]!.device : call.calling
      return { ...told, ...comingBack(call, event), calling, hunting: null, overflowed: event.overflow ? [...call.overflowed, event.overflow] : call.overflowed, connections }
    }
    case 'refused': return { ...told, refusedBy: [...call.refusedBy, event.device] }
    // Whoever could not be reached has nothing to do with the call.
    case 'failed':
      return { ...told, hunting: null, failed: { device: event.device, cause: event.cause, at: event.at }, connections: without(settled(call.connections), event.device) }
    case 'connectionCleared': return left(told, event.device)
  }
}

function muted({ muted: _before, ...rest }: Connection, on: boolean): Connection {
  return on ? { ...rest, muted: true } : rest
}

/** A group goes on being hunted through; another one begins anew. */
function huntingAfter({ hunting }: Call, { group, device }: EventOf<'delivered'>): Call['hunting'] {
  if (!group) return null
  return { group, tried: hunting?.group === group ? [...hunting.tried, device] : [device] }
}

/** Whoever answers ends whatever else rang or waited, unless they were asked to join people who talk already. */
function answered(call: Call, event: EventOf<'established'>): Call {
  const rang = call.connections.find(candidate => candidate.device === event.device)
  const taken = { device: event.device, state: 'connected' as const, since: event.at }
  if (rang?.invitedBy) {
    const connections = call.connections.map(candidate => candidate === rang ? { ...taken, ...outsideOf(rang) } : candidate)
    const three = connections.filter(({ state }) => state !== 'alerting').length > 2
    return { ...call, connections, conference: call.conference ?? (three ? { by: rang.invitedBy, since: event.at } : null) }
  }
  const others = settled(call.connections).filter(({ device }) => device !== event.device && device !== event.from)
  return {
    ...call, passing: null, hunting: null, parked: null,
    ...(!isMailbox(event.device) && { overflowed: [] }),
    conference: call.conference ?? (others.length > 1 ? { by: event.device, since: event.at } : null),
    connections: [...others, { ...taken, ...(rang && outsideOf(rang)) }],
  }
}

function outsideOf({ party, trunk }: Connection): Pick<Connection, 'party' | 'trunk'> {
  return party ? { party, trunk } : {}
}

function transferred(call: Call, event: EventOf<'transferred'>, joined: Call | undefined): Call {
  const rest = without(settled(call.connections), event.device)
  const newcomers = joined?.connections.filter(({ device }) => device !== event.device) ?? []
  const taken = newcomers.some(({ state }) => state !== 'alerting')
  const passing = { by: event.by ?? event.device, to: event.to, at: event.at, note: event.note ?? null }
  return {
    ...call, calling: rest[0]!.device, passing: taken ? null : passing, hunting: null, recall: null, parked: null, consulted: null,
    overflowed: [], connections: [...rest, ...newcomers],
  }
}

/** A diverted call that somebody had passed on or parked comes back to them. */
function comingBack(call: Call, event: EventOf<'diverted'>): Pick<Call, 'passing' | 'parked' | 'recall'> {
  const rang = connectionSince(call, event.device)
    ?? Math.min(event.at, ...call.connections.filter(({ state }) => state === 'alerting').map(({ since }) => since))
  return {
    passing: null,
    parked: null,
    recall: { to: call.passing?.by ?? call.parked?.by ?? event.to, from: event.device, cause: event.cause, rang: event.at - rang, at: event.at },
  }
}

/** What is left when one party goes: a conference of two is a call like any other, and somebody else may be the one who is served. */
function left(call: Call, device: DeviceId): Call {
  const connections = without(call.connections, device)
  const staying = connections.filter(({ state }) => state === 'connected' || state === 'held')
  const calling = call.calling === device ? (staying.find(({ party }) => party) ?? staying[0])?.device ?? call.calling : call.calling
  const goesOn = staying.length > 2
  return {
    ...call, calling,
    // With the conference ends the right to mute others, and so what came of it.
    connections: goesOn ? connections : connections.map(candidate => candidate.device === call.conference?.by ? candidate : muted(candidate, candidate.muted === true && call.conference === null)),
    conference: goesOn ? call.conference : null,
  }
}

function connectionSince(call: Call, device: DeviceId): number | null {
  return call.connections.find(candidate => candidate.device === device)?.since ?? null
}

/** Those who are in the call, without whatever rings or waits for somebody. */
function settled(connections: Connection[]): Connection[] {
  return connections.filter(({ state }) => state !== 'alerting' && state !== 'queued')
}

function without(connections: Connection[], device: DeviceId): Connection[] {
  return connections.filter(candidate => candidate.device !== device)
}

function withState(connections: Connection[], device: DeviceId, state: ConnectionState, since: number): Connection[] {
  return connections.map(candidate => candidate.device === device ? { ...candidate, state, since } : candidate)
}

type Told = Exclude<CallChange, { type: 'callInformation' | 'digitsGenerated' | 'microphoneMute' | 'released' }> | EventOf<'callCleared'>

/** The step of a call's story that an event makes. */
export function stepOf(event: Told): Step {
  const step: Step = { at: event.at, type: event.type, device: event.type === 'transferred' && event.by ? event.by : event.device }
  if (event.type === 'parked') step.to = event.slot
  if (event.type === 'established' && event.from) step.to = event.from
  if ('to' in event) step.to = event.to
  if ('cause' in event) step.cause = event.cause
  return step
}

function withStep(story: Step[], step: Step): Step[] {
  if (story.length < longestStory) return [...story, step]
  return [...story.slice(0, keptBeginning), ...story.slice(keptBeginning + 1), step]
}
