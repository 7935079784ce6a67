import { type EventKind, told } from './event'
import type { Call, CallId, Connection, ConnectionState, DeviceId, EventOf, ExchangeState, NumberedEvent, Step } from './model'
import { concealed } from '../numbers/dialled'
import { isMailbox } from './names'
import { connectionOf, isOutside, placesOf, queueOf } from './questions'

/**
 * The course of every call, whatever services it goes through: the events that several of them bring about. What follows for everything else stands in
 * `evolve.ts`.
 */

declare module './model' {
  interface Events {
    originated: OfCall & { direction: Direction, dialled: string, line: LineId | null, party?: Party, trunk?: TrunkId, consultation?: CallId, account?: string }
      & { withheld?: true }
      /** To keep a promise; `prompted`: a member of that queue is rung first. */
      & { callBack?: CallBackId, prompted?: { queue: DeviceId, party: Party } }
    queued: OfCall
    /** `group`: whose member rings. */
    /** `along`: a mobile rings along with that telephone. */
    /** `offered`: the call keeps its place in the queue that is the group. */
    delivered: OfCall & { party?: Party, trunk?: TrunkId, invitedBy?: DeviceId, group?: DeviceId, along?: DeviceId, offered?: true }
    /** `from`: where it rang, waited, was parked or talked when somebody else took it. */
    established: OfCall & { from?: DeviceId, byItself?: true }
    /** `overflow`: the destination as it stands in the rule that sent the call on. */
    diverted: OfCall & { to: DeviceId, cause: Cause, overflow?: string }
    failed: OfCall & { cause: Cause }
    connectionCleared: OfCall & { cause: Cause }
    callCleared: OfCall & { cause: Cause }
    /** Two parties outside are no longer watched by whoever brought them together. */
    released: OfCall
  }
}

/** A story longer than this keeps its beginning and its latest steps: no caller can fill the memory. */
const longestStory = 120
const keptBeginning = 20

/** What happens within a call that goes on. */
export type CallChange = Exclude<Extract<NumberedEvent, { call: CallId }>, { type: 'originated' | 'callCleared' }>

/** What is left of an outside party for who sees no callers. */
export const unknownParty = { number: null, name: null }
const withoutParties = (connections: Connection[]) => connections.map(connection => connection.party ? { ...connection, party: unknownParty } : connection)

export const course: {
  [E in 'originated' | 'queued' | 'delivered' | 'established' | 'diverted' | 'failed' | 'connectionCleared' | 'callCleared' | 'released']: EventKind<E>
} = {
  originated: {
    redact({ account: _account, ...event }) {
      const { party, prompted } = event
      return { ...event, dialled: '', ...(party && { party: unknownParty }), ...(prompted && { prompted: { ...prompted, party: unknownParty } }) }
    },
    redactCall: call => ({ ...call, dialled: '', party: call.party && unknownParty, account: null, connections: withoutParties(call.connections) }),
  },
  queued: {
    change: ({ turn: _turn, told: _told, ...call }, event) => ({
      ...call,
      hunting: null,
      refusedBy: [],
      connections: [...call.connections, { device: event.device, state: 'queued', since: event.at }],
    }),
    step: told,
  },
  delivered: {
    change: (call, event) => ({
      ...call,
      ...(!event.invitedBy && !event.along && { hunting: huntingAfter(call, event) }),
      // Whoever only rings along is not yet who is talked with.
      party: call.party ?? (event.along ? null : event.party ?? null),
      connections: [...call.connections, connection(event, 'alerting')],
    }),
    step: ({ along }) => (along ? { along } : {}),
    redact: event => (event.party ? { ...event, party: unknownParty } : event),
  },
  established: { change: answered, step: ({ from }) => (from ? { to: from } : {}) },
  diverted: {
    change(call, event) {
      const connections = without(settled(call.connections), event.device)
      // Whoever is left behind by the one who called is the one to be served now.
      const calling = event.device === call.calling ? connections[0]!.device : call.calling
      return {
        ...call,
        ...comingBack(call, event),
        calling,
        hunting: null,
        overflowed: event.overflow === undefined ? call.overflowed : [...call.overflowed, event.overflow],
        connections,
      }
    },
    step: told,
    // Where a rule sends calls may be a number outside.
    redact: event => event.overflow === undefined ? event : { ...event, overflow: concealed(event.overflow) },
    redactCall: call => ({ ...call, overflowed: call.overflowed.map(concealed) }),
  },
  failed: {
    // Whoever could not be reached has nothing to do with the call.
    change: (call, event) => ({
      ...call,
      hunting: null,
      failed: { device: event.device, cause: event.cause, at: event.at },
      connections: without(settled(call.connections), event.device),
    }),
    step: told,
  },
  connectionCleared: { change: (call, event) => left(call, event.device), step: told },
  callCleared: { step: told },
  released: { change: call => ({ ...call, watched: null }) },
}

/** A call that has just begun. */
export function begun(event: EventOf<'originated'>): Call {
  return {
    id: event.call,
    direction: event.direction,
    calling: event.device,
    dialled: event.dialled,
    line: event.line,
    created: event.at,
    party: event.party ?? event.prompted?.party ?? null,
    connections: [connection(event, event.prompted ? 'alerting' : 'connected')],
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
    ...(event.withheld && { withheld: true as const }),
    ...(event.callBack !== undefined && { callBack: event.callBack }),
    story: [{ at: event.at, type: event.prompted ? 'prompted' : 'originated', device: event.device }],
  }
}

function connection(event: EventOf<'originated'> | EventOf<'delivered'>, state: ConnectionState): Connection {
  return {
    device: event.device,
    state,
    since: event.at,
    ...(event.party && { party: event.party, trunk: event.trunk }),
    ...('invitedBy' in event && event.invitedBy && { invitedBy: event.invitedBy }),
    ...('along' in event && event.along && { along: event.along }),
    ...('offered' in event && event.offered && { offeredBy: event.group }),
    ...('prompted' in event && event.prompted && { offeredBy: event.prompted.queue }),
  }
}

/** A call that goes on, after an event. `joined`: the call that becomes part of it. */
export function changedCall(kind: EventKind<never>, call: Call, event: CallChange, joined: Call | undefined): Call {
  const after = kind.change?.(call, event as never, joined) ?? call
  if (!kind.step) return after
  const story = withStep(after.story, stepAs(kind, event))
  // What has just been made is nobody else's yet: a call is copied once for an event, not twice.
  if (after === call) return { ...call, story }
  after.story = story
  return after
}

export function muted({ muted: _before, ...rest }: Connection, on: boolean): Connection {
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
  const taken = { device: event.device, state: 'connected' as const, since: event.at, ...(event.byItself && { byItself: true as const }) }
  if (rang?.invitedBy) {
    const connections = call.connections.flatMap((candidate) => {
      if (candidate === rang) return { ...taken, ...outsideOf(rang) }
      // Of a telephone and the mobile that rings along with it one is enough.
      return candidate.state === 'alerting' && isAlong(candidate, rang) ? [] : candidate
    })
    const three = connections.filter(({ state }) => state !== 'alerting').length > 2
    return { ...call, connections, conference: call.conference ?? (three ? { by: rang.invitedBy, since: event.at } : null) }
  }
  const others = settled(call.connections).filter(({ device }) => device !== event.device && device !== event.from)
  const queue = queueOf(call)
  return {
    ...call, passing: null, hunting: null, parked: null, party: call.party ?? rang?.party ?? null,
    ...(queue && { servedFrom: queue.device }),
    ...(!isMailbox(event.device) && { overflowed: [], forwardedBy: [] }),
    conference: call.conference ?? (others.length > 1 ? { by: event.device, since: event.at } : null),
    connections: [...others, { ...taken, ...(rang && outsideOf(rang)) }],
  }
}

/** Whoever answers at the mobile that rang along with their telephone is still that telephone's. */
function outsideOf({ party, trunk, along }: Connection): Pick<Connection, 'party' | 'trunk' | 'along'> {
  return party ? { party, trunk, ...(along !== undefined && { along }) } : {}
}

function isAlong(one: Connection, other: Connection): boolean {
  return one.along === other.device || other.along === one.device
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
  const caller = call.calling === device ? connectionOf(call, device) : undefined
  return {
    ...call,
    calling,
    ...(caller?.party && !placesOf(call).includes('talking') && { gaveUp: true }),
    // With the conference ends the right to mute others, and so what came of it.
    connections: goesOn
      ? connections
      : connections.map(candidate =>
          candidate.device === call.conference?.by ? candidate : muted(candidate, candidate.muted === true && call.conference === null),
        ),
    conference: goesOn ? call.conference : null,
  }
}

function connectionSince(call: Call, device: DeviceId): number | null {
  return call.connections.find(candidate => candidate.device === device)?.since ?? null
}

/** Those who are in the call, without whatever rings or waits for somebody. */
export function settled(connections: Connection[]): Connection[] {
  return connections.filter(({ state }) => state !== 'alerting' && state !== 'queued')
}

export function without(connections: Connection[], device: DeviceId): Connection[] {
  return connections.filter(candidate => candidate.device !== device)
}

export function withState(connections: Connection[], device: DeviceId, state: ConnectionState, since: number): Connection[] {
  return connections.map(candidate => candidate.device === device ? { ...candidate, state, since } : candidate)
}

/** The step of a call's story that an event of a kind makes that is told there. */
export function stepAs(kind: EventKind<never>, event: CallChange | EventOf<'callCleared'>): Step {
  return {
    // A kind whose name is none of a step's says whose it takes: the types ask for it.
    at: event.at, type: event.type as Step['type'], device: event.device,
    ...('to' in event && { to: event.to }),
    ...('cause' in event && { cause: event.cause }),
    ...kind.step?.(event as never),
  }
}

function withStep(story: Step[], step: Step): Step[] {
  if (story.length < longestStory) return [...story, step]
  return [...story.slice(0, keptBeginning), ...story.slice(keptBeginning + 1), step]
}

/** Who brought two parties outside together watches them, until they are released or somebody of ours is with them again. */
export function watchedOutside(then: Call, before: Call, event: CallChange): Call {
  if (!isOutside(then)) return then.watched ? { ...then, watched: null } : then
  if (then.watched || event.type === 'released' || isOutside(before)) return then
  return { ...then, watched: { by: before.passing?.by ?? event.device, at: event.at } }
}

/** A conference whose leader has gone is led by whoever of ours has been in it longest. */
export function ledBySomebody(call: Call, state: ExchangeState): Call {
  const { conference } = call
  if (!conference || call.connections.some(({ device }) => device === conference.by)) return call
  const [longest] = call.connections.filter(({ device, state: its }) => state.devices.has(device) && its !== 'alerting').sort((a, b) => a.since - b.since)
  const by = longest?.device ?? null
  // Whom nobody can let speak again is heard again.
  const connections = by === null ? call.connections.map(candidate => muted(candidate, false)) : call.connections
  return by === conference.by ? call : { ...call, connections, conference: { ...conference, by } }
}

/** What a held caller's call tells of the colleague who is being asked. That whoever asks hangs up is no news to them. */
export function heardOfConsultation(primary: Call, call: Call, event: CallChange): Call {
  switch (event.type) {
    case 'delivered':
    case 'queued': {
      if ('along' in event && event.along) return primary
      const step: Step = { at: event.at, type: 'consulted', device: call.calling, to: event.device }
      return { ...primary, consulted: null, story: withStep(primary.story, step) }
    }
    case 'failed':
    case 'connectionCleared': {
      if (event.device === call.calling) return primary
      return {
        ...primary,
        consulted: { device: event.device, cause: event.cause, rang: event.at - (connectionSince(call, event.device) ?? event.at), at: event.at },
      }
    }
    default: return primary
  }
}
