import type { Call, Connection, ConnectionState, DeviceId, ExchangeState, NumberedEvent, Step } from './model'

/** A story longer than this keeps its beginning and its latest steps: no caller can fill the memory. */
const longestStory = 120
const keptBeginning = 20

/**
 * The state after an event. Pure: the old state stays as it was and shares what did not change.
 * An event about a call or device that the state does not know changes nothing but the sequence number.
 */
export function evolve(state: ExchangeState, event: NumberedEvent): ExchangeState {
  const next: ExchangeState = { ...state, seq: event.seq, time: Math.max(state.time, event.at) }
  if (event.type === 'doNotDisturb' || event.type === 'statusChanged') {
    const device = state.devices[event.device]
    if (!device) return next
    const changed = event.type === 'doNotDisturb'
      ? { ...device, doNotDisturb: event.on }
      : { ...device, status: { reason: event.reason, since: event.at, until: event.until } }
    next.devices = { ...state.devices, [device.id]: changed }
    return next
  }
  if (event.type === 'originated') {
    next.serial = state.serial + 1
    next.calls = { ...state.calls, [event.call]: begun(event) }
    return next
  }
  const call = state.calls[event.call]
  if (!call) return next
  if (event.type === 'callCleared') {
    const { [event.call]: _ended, ...rest } = state.calls
    next.calls = rest
    return next
  }
  if (event.type === 'delivered' && event.party) next.serial = state.serial + 1
  next.calls = { ...state.calls, [call.id]: changedCall(call, event) }
  return next
}

/** Many events at once. */
export function evolveAll(state: ExchangeState, events: readonly NumberedEvent[]): ExchangeState {
  return events.reduce(evolve, state)
}

type EventOf<T extends NumberedEvent['type']> = Extract<NumberedEvent, { type: T }>
type CallChange = Exclude<NumberedEvent, { type: 'doNotDisturb' | 'statusChanged' | 'originated' | 'callCleared' }>

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
    recall: null,
    deadline: null,
    caption: null,
    story: [{ at: event.at, type: 'originated', device: event.device }],
  }
}

function connection(event: EventOf<'originated' | 'delivered'>, state: ConnectionState): Connection {
  return { device: event.device, state, since: event.at, ...(event.party && { party: event.party, trunk: event.trunk }) }
}

function changedCall(call: Call, event: CallChange): Call {
  if (event.type === 'callInformation') return { ...call, caption: { device: event.device, text: event.text, at: event.at } }
  const told = { ...call, story: withStep(call.story, stepOf(event)) }
  switch (event.type) {
    case 'queued':
      return { ...told, deadline: null, connections: [...call.connections, { device: event.device, state: 'queued', since: event.at }] }
    case 'delivered':
      return { ...told, deadline: event.deadline, party: call.party ?? event.party ?? null, connections: [...call.connections, connection(event, 'alerting')] }
    case 'established':
      return { ...told, deadline: null, passing: null, connections: answeredBy(call.connections, event.device, event.at) }
    case 'held':
      return { ...told, connections: withState(call.connections, event.device, 'held', event.at) }
    case 'retrieved':
      return { ...told, connections: withState(call.connections, event.device, 'connected', event.at) }
    case 'transferred': {
      const connections = without(call.connections, event.device)
      return { ...told, calling: connections[0]!.device, passing: { by: event.device, to: event.to, at: event.at }, recall: null, connections }
    }
    case 'diverted':
      return { ...told, ...comingBack(call, event), deadline: null, connections: without(call.connections, event.device) }
    case 'failed': {
      const rest = without(call.connections, event.device)
      return { ...told, deadline: event.deadline, connections: [...rest, { device: event.device, state: 'failed', since: event.at }] }
    }
    case 'connectionCleared':
      return { ...told, connections: without(call.connections, event.device) }
  }
}

/** A diverted call that somebody had passed on comes back to them; its passing is over. */
function comingBack(call: Call, event: EventOf<'diverted'>): Pick<Call, 'passing' | 'recall'> {
  const rang = connectionSince(call, event.device)
  return {
    passing: null,
    recall: {
      to: call.passing?.by ?? event.to,
      from: event.device,
      cause: event.cause,
      rang: rang === null ? 0 : event.at - rang,
      at: event.at,
    },
  }
}

function connectionSince(call: Call, device: DeviceId): number | null {
  return call.connections.find(candidate => candidate.device === device)?.since ?? null
}

/** Once somebody has answered, whatever else rang or queued on the call is over. */
function answeredBy(connections: Connection[], device: DeviceId, at: number): Connection[] {
  const rang = connections.find(candidate => candidate.device === device)
  const others = connections.filter(candidate => candidate !== rang && candidate.state !== 'alerting' && candidate.state !== 'queued')
  return [...others, { ...rang, device, state: 'connected', since: at }]
}

function without(connections: Connection[], device: DeviceId): Connection[] {
  return connections.filter(candidate => candidate.device !== device)
}

function withState(connections: Connection[], device: DeviceId, state: ConnectionState, since: number): Connection[] {
  return connections.map(candidate => candidate.device === device ? { ...candidate, state, since } : candidate)
}

/** The step of a call's story that an event makes. */
export function stepOf(event: Exclude<CallChange, { type: 'callInformation' }> | EventOf<'callCleared'>): Step {
  const step: Step = { at: event.at, type: event.type, device: event.device }
  if ('to' in event) step.to = event.to
  if ('cause' in event) step.cause = event.cause
  return step
}

function withStep(story: Step[], step: Step): Step[] {
  if (story.length < longestStory) return [...story, step]
  return [...story.slice(0, keptBeginning), ...story.slice(keptBeginning + 1), step]
}
