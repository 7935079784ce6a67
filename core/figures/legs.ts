import type { Call, CallId, Cause, Connection, DeviceId, Direction, ExchangeState, LineId, NumberedEvent, Step } from '../calls/model'
import { isPrompt } from '../calls/call-backs/call-backs'
import { isMailbox } from '../calls/names'
import { standsFor } from '../calls/story'

/**
 * What figures are made of. A leg is one stay of a call at one place where it waits, with the conversation that came of it: a call that is moved on has one
 * leg for each place, and none is counted twice. They follow from events and the states before and after, so whoever reads the journal again finds the same.
 *
 * `line`: the whole call, on one of our lines. `group`: in a queue, or while a group is rung. `telephone`, `slot`, `outside`: rings there, is parked there, is
 * passed on outside. `made`: a call that one of ours made. `joined`: somebody came to talk without the call having waited for them: asked beforehand, or in
 * a conference.
 */
export const legKinds = ['line', 'group', 'telephone', 'slot', 'outside', 'made', 'joined'] as const
export type LegKind = typeof legKinds[number]

/**
 * How the waiting ended. `abandoned`: the caller gave up; `movedOn`: the call went elsewhere, by somebody's hand or by a rule; `failed`: it could not be
 * reached there; `turnedAway`: we ended the call; `lost`: the exchange stopped; `promised`: the caller has left and is to be called back.
 */
export const legEnds = ['waiting', 'answered', 'abandoned', 'movedOn', 'failed', 'mailbox', 'turnedAway', 'lost', 'promised'] as const
export type LegEnd = typeof legEnds[number]

/** Where all legs outside stand: which number it was is nobody's business here. */
export const outsidePlace = 'outside'
/** The line of calls from outside that came to a telephone's direct number. */
export const directLine = '#direct'

/** A leg as it is kept. */
export interface Leg {
  call: CallId
  of: LegKind
  place: string
  /** When it began, as people read it: milliseconds since 1970. */
  at: number
  direction: Direction
  line: LineId | null
  number: string | null
  passedBy: DeviceId | null
  back: boolean
  end: LegEnd
  cause: Cause | null
  /** The telephone of whoever answered. */
  by: DeviceId | null
  /** Durations in milliseconds; null while it goes on. `talked`: from the answer until `by` had it no longer, on hold or not; of a line, until the end. */
  waited: number | null
  talked: number | null
  held: number
  /** Where it went from there: a place, a telephone or a mailbox. */
  next: string | null
}

/** What an event changes in the legs of a call. Times are the exchange's own, in milliseconds. */
export type LegChange
  = | {
    kind: 'legBegun'
    call: CallId
    of: LegKind
    place: string
    at: number
    direction: Direction
    line: LineId | null
    /** The caller's number, of a leg at a line alone. */
    number: string | null
    passedBy: DeviceId | null
    /** The call has come back from where it was passed on or parked. */
    back: boolean
    /** Who has it already: whoever makes the call, or who joined. */
    by: DeviceId | null
    /** The state with which the journal begins holds it: there may be a leg for it already. */
    unlessOpen: boolean
  }
  | { kind: 'legWaited', call: CallId, of: LegKind, place: string, at: number, end: LegEnd, cause: Cause | null, by: DeviceId | null, next: string | null }
    /** Somebody who had the call has it no longer. `held`: for how long they had put it on hold, in milliseconds. */
  | { kind: 'legTalked', call: CallId, by: DeviceId, at: number, held: number, next: string | null }
    /** The call is over, and so is every leg of it. */
  | { kind: 'legsOver', call: CallId, at: number, end: LegEnd, cause: Cause | null }

interface Place { of: LegKind, place: string, since: number }

/** What an event changes in the legs of the calls that it is about. */
export function legChanges(event: NumberedEvent, before: ExchangeState, after: ExchangeState): LegChange[] {
  if (!('call' in event)) return []
  const was = before.calls.get(event.call)
  const is = after.calls.get(event.call)
  const joined = 'joined' in event && event.joined ? before.calls.get(event.joined) : undefined
  const joinedOver = joined ? over(before, joined, event, 'movedOn') : []
  if (!was) return is && event.type === 'originated' ? begun(after, is) : []
  if (!is) return event.type === 'callCleared' ? over(before, was, event, endOf(was, event.cause)) : []
  if (isPrompt(was)) return isPrompt(is) ? [] : begun(after, { ...is, created: event.at })
  return [...joinedOver, ...waitingChanges(before, was, is, event), ...talkingChanges(before, after, was, is, event)]
}

/** The legs of a call as it stands in a state with which the journal begins. */
export function legsOfLiving(state: ExchangeState): LegChange[] {
  return [...state.calls.values()].flatMap((call) => {
    const place = placeOf(state, call)
    const answered = call.story.find(step => step.type === 'established' && talkerOf(state, call.story, step.device) !== null)
    const made = begun(state, call)
    const there = talkersOf(state, call).filter(({ device }) => call.direction === 'inbound' || device !== call.story[0]!.device)
    return [
      ...made,
      ...answered && made.length > 0 ? [waitedAs(made[0] as Begun, answered.at, 'answered', talkerOf(state, call.story, answered.device))] : [],
      ...place ? [leg(call, place.of, place.place, place.since)] : [],
      ...there.map(({ device, since }) => leg(call, 'joined', device, since, { by: device })),
    ].map(change => change.kind === 'legBegun' ? { ...change, unlessOpen: true } : change)
  })
}

type Begun = Extract<LegChange, { kind: 'legBegun' }>

function leg({ id, direction, line }: Call, of: LegKind, place: string, at: number, more: Partial<Begun> = {}): Begun {
  const on = line ?? (direction === 'inbound' ? directLine : null)
  return { kind: 'legBegun', call: id, of, place, at, direction, line: on, number: null, passedBy: null, back: false, by: null, unlessOpen: false, ...more }
}

function waitedAs({ call, of, place }: Begun, at: number, end: LegEnd, by: DeviceId | null): LegChange {
  return { kind: 'legWaited', call, of, place, at, end, cause: null, by, next: null }
}

/** The leg at its line of a call from outside, or that of whoever of ours makes a call. */
function begun(state: ExchangeState, call: Call): LegChange[] {
  const { line, direction, created, party, story } = call
  if (direction === 'inbound') return [leg(call, 'line', line ?? directLine, created, { number: party?.number ?? null })]
  const by = story[0]!.device
  // Who is only rung to call back has not called yet.
  if (isPrompt(call)) return []
  return state.devices.has(by) ? [leg(call, 'made', by, created, { by })] : []
}

/** Where a call waits for somebody; null while it waits nowhere. */
function placeOf(state: ExchangeState, call: Call): Place | null {
  if (call.parked) return { of: 'slot', place: call.parked.slot, since: call.parked.at }
  const queued = call.connections.find(connection => connection.state === 'queued')
  if (queued) return { of: 'group', place: queued.device, since: queued.since }
  const ringing = call.connections.find(({ state: its, invitedBy, along }) => its === 'alerting' && !invitedBy && !along)
  // Between two members of a group that is rung nobody rings for a moment.
  if (call.hunting) return { of: 'group', place: call.hunting.group, since: ringing?.since ?? call.created }
  if (!ringing) return null
  if (state.devices.has(ringing.device)) return { of: 'telephone', place: ringing.device, since: ringing.since }
  // A call outward is a leg of whoever makes it.
  return call.passing ? { of: 'outside', place: outsidePlace, since: ringing.since } : null
}

/** The telephone of ours whose person talks at this device (their mobile may have rung along); null for everybody else. */
function talkerOf(state: ExchangeState, story: readonly Step[], device: DeviceId): DeviceId | null {
  const owner = standsFor(story, device)
  return state.devices.has(owner) ? owner : null
}

/** Who of ours is in a call, talking or with it on hold. */
function talkersOf(state: ExchangeState, call: Call): Pick<Connection, 'device' | 'since'>[] {
  return call.connections.flatMap(({ device, state: its, since }) => {
    const talker = its === 'connected' || its === 'held' ? talkerOf(state, call.story, device) : null
    return talker === null ? [] : [{ device: talker, since }]
  })
}

/** A leg at a place ends, or begins, when the call is elsewhere than before. */
function waitingChanges(state: ExchangeState, was: Call, is: Call, event: NumberedEvent & { call: CallId }): LegChange[] {
  const [from, to] = [placeOf(state, was), placeOf(state, is)]
  const changes: LegChange[] = []
  const same = from && to && from.of === to.of && from.place === to.place
  if (from && !same) changes.push(waited(state, is, from, event))
  if (to && !same) {
    const passing = is.passing ?? is.parked
    changes.push(leg(is, to.of, to.place, event.at, { passedBy: passing?.by ?? null, back: !passing && hasComeBack(is.story) }))
  }
  return [...changes, ...firstAnswer(state, was, is, event)]
}

function waited(state: ExchangeState, is: Call, { of, place }: Place, event: NumberedEvent & { call: CallId }): LegChange {
  const [end, cause, by, next] = howItEnded(state, is, event)
  return { kind: 'legWaited', call: is.id, of, place, at: event.at, end, cause, by, next }
}

function howItEnded(state: ExchangeState, is: Call, event: NumberedEvent): [LegEnd, Cause | null, DeviceId | null, string | null] {
  switch (event.type) {
    case 'established':
      return isMailbox(event.device) ? ['mailbox', null, null, event.device] : ['answered', null, talkerOf(state, is.story, event.device), null]
    case 'diverted': return ['movedOn', event.cause, null, placeNamed(event.to)]
    case 'transferred': return ['movedOn', null, null, placeNamed(event.to)]
    case 'parked': return ['movedOn', null, null, event.slot]
    case 'failed': return ['failed', event.cause, null, null]
    case 'connectionCleared': return ['movedOn', event.cause, null, null]
    default: return ['movedOn', null, null, null]
  }
}

/** The first of ours who answers a call on a line, or whom a call of ours reaches; before that, a mailbox. */
function firstAnswer(state: ExchangeState, was: Call, is: Call, event: NumberedEvent & { call: CallId }): LegChange[] {
  if (event.type !== 'established') return []
  const [made] = begun(state, is) as Begun[]
  if (!made || was.story.some(step => step.type === 'established' && !isMailbox(step.device))) return []
  const by = talkerOf(state, is.story, event.device)
  if (is.direction !== 'inbound') return [waitedAs(made, event.at, isMailbox(event.device) ? 'mailbox' : 'answered', made.by)]
  if (isMailbox(event.device)) return [waitedAs(made, event.at, 'mailbox', null)]
  return [waitedAs(made, event.at, 'answered', by)]
}

/** True when the call stands where it stands because whoever passed it on, or parked it, gets it back. */
function hasComeBack(story: readonly Step[]): boolean {
  const diverted = story.findLastIndex(({ type }) => type === 'diverted')
  if (diverted < 0 || story.slice(diverted + 1).some(({ type }) => leaves.includes(type))) return false
  return passes.includes(story.slice(0, diverted).findLast(({ type }) => leaves.includes(type))?.type ?? '')
}
const passes: readonly string[] = ['transferred', 'parked']
const leaves: readonly string[] = [...passes, 'established', 'diverted', 'originated']

/** Somebody of ours has the call now, or no longer. */
function talkingChanges(before: ExchangeState, after: ExchangeState, was: Call, is: Call, event: NumberedEvent & { call: CallId }): LegChange[] {
  const [then, now] = [talkersOf(before, was), talkersOf(after, is)]
  const answers = event.type === 'established' && placeOf(before, was) !== null ? talkerOf(before, is.story, event.device) : null
  const came = now.filter(({ device }) => device !== answers && !then.some(other => other.device === device))
  const gone = then.filter(({ device }) => !now.some(other => other.device === device))
  const passedBy = (event.type === 'transferred' || event.type === 'conferenced') ? event.device : null
  return [
    ...gone.map(({ device }) => talked(was, device, event.at, wentTo(event, device))),
    ...came.map(({ device }) => leg(is, 'joined', device, event.at, { by: device, passedBy })),
  ]
}

function talked({ id, story }: Call, by: DeviceId, at: number, next: string | null): LegChange {
  return { kind: 'legTalked', call: id, by, at, held: heldBy(story, by, at), next }
}

/** Where a call went that somebody has no longer. */
function wentTo(event: NumberedEvent, by: DeviceId): string | null {
  if (event.type === 'transferred') return placeNamed(event.to)
  if (event.type === 'parked') return event.slot
  return event.type === 'established' && event.from === by ? event.device : null
}

/**
 * For how long somebody has had the call on hold since they came to it, until a moment; milliseconds. Whoever makes a call has come to it when somebody
 * answers: what they held while it rang was nobody.
 */
function heldBy(story: readonly Step[], device: DeviceId, until: number): number {
  const theirs = story.filter(step => standsFor(story, step.device) === device)
  const came = (theirs.findLast(({ type }) => type === 'established') ?? story.find(({ type }) => type === 'established'))?.at ?? until
  let [held, since]: [number, number | null] = [0, null]
  for (const { type, at } of theirs) {
    if (type === 'held') since ??= at
    if (type !== 'retrieved' || since === null) continue
    held += Math.max(0, at - Math.max(since, came))
    since = null
  }
  return since === null ? held : held + Math.max(0, until - Math.max(since, came))
}

/** Every leg of a call that is no more ends. */
function over(state: ExchangeState, call: Call, event: NumberedEvent, end: LegEnd): LegChange[] {
  return [
    ...talkersOf(state, call).map(({ device }) => talked(call, device, event.at, null)),
    { kind: 'legsOver', call: call.id, at: event.at, end, cause: event.type === 'callCleared' ? event.cause : null },
  ]
}

function endOf(call: Call, cause: Cause): LegEnd {
  if (cause === 'exchangeLost') return 'lost'
  if (cause === 'callBack') return 'promised'
  return !call.failed && (cause === 'abandoned' || cause === 'normalClearing') ? 'abandoned' : 'turnedAway'
}

/** Parties outside are all at one place. */
function placeNamed(device: DeviceId): string {
  return device.includes('#') ? outsidePlace : device
}
