import { phrase, type Spoken } from '../../words/phrase'
import type { Group, Ringing } from '../company/company'
import { groupsOf, isMemberOf, lookUp, ringingQueues } from '../company/lookups'
import { asWaiting, isPrompt, mayBeOffered, prompt, promptOver } from '../calls/call-backs/call-backs'
import { evolveAll, numbered } from '../calls/evolve'
import { freeIn } from '../calls/indexes'
import type { Call, CallEvent, CallId, Connection, DeviceId, ExchangeState } from '../calls/model'
import { sendAway } from '../calls/passing/passing'
import { serves } from './serving'
import { arrivedIn, inTheirTurn } from './turns'

/**
 * Queues that ring their members. The call keeps its place in the queue until somebody answers: a member who lets it ring, declines, or stops serving while it
 * rings loses nobody. Whoever is to be called back has a place among those who wait.
 */

/** The calls that a queue rings at its members at present, with where they ring. */
function offersOf(call: Call): Connection[] {
  return call.connections.filter(({ offeredBy }) => offeredBy)
}

/** How often a call has been offered so far; rung at all of them at once it is offered once. */
function triesOf({ hunting }: Call, { id, ringing }: Group): number {
  const tried = hunting?.group === id ? hunting.tried : []
  return ringing === 'all' ? Math.max(0, ...tried.map(device => tried.filter(other => other === device).length)) : tried.length
}

/**
 * The queues that may have to ring somebody, or to stop ringing them, after events: those in which one of their calls waits, those of everybody who is or was
 * in such a call or whom an event names, and those with promises. Nothing else can have changed whom a queue rings.
 * @param before the state before the events; @returns null for all of them
 */
export function queuesAfter(before: ExchangeState, after: ExchangeState, events: readonly CallEvent[]): ReadonlySet<DeviceId> | null {
  const queues = new Set<DeviceId>()
  const calls = new Set<CallId>()
  const place = (device: DeviceId) => {
    if (queues.has(device)) return
    queues.add(device)
    for (const group of groupsOf(after.company, device)) queues.add(group)
  }
  for (const event of events) {
    if (event.type === 'configured' || event.type === 'clockAdjusted' || event.type === 'openingChanged') return null
    if ('callBack' in event && event.callBack !== undefined)
      for (const { callBacks } of [before, after]) queues.add(callBacks.get(event.callBack)?.queue ?? '')
    if ('device' in event) place(event.device)
    if (!('call' in event)) continue
    calls.add(event.call)
    if ('joined' in event && event.joined) calls.add(event.joined)
  }
  for (const id of calls) {
    for (const { device, offeredBy } of [before, after].flatMap(state => state.calls.get(id)?.connections ?? [])) {
      place(device)
      if (offeredBy !== undefined) queues.add(offeredBy)
    }
  }
  // A channel that is free again, or a caller who is on the line no longer, is what a promise may wait for.
  for (const { queue } of after.callBacks.values()) queues.add(queue)
  return queues
}

/**
 * What queues that ring have to do at this moment: stop ringing whoever serves no longer, send on whom so many have let ring, and ring somebody for the others,
 * whoever is served first before the next.
 * @param concerned the queues that are looked at; null: all of them
 */
export function offersDue(state: ExchangeState, concerned: ReadonlySet<DeviceId> | null, now: number): CallEvent[] {
  const happened: CallEvent[] = []
  let current = state
  const happens = (events: CallEvent[]) => {
    current = evolveAll(current, numbered(current, events, now))
    happened.push(...events)
  }
  for (const queue of ringingQueues(state.company)) {
    if (concerned && !concerned.has(queue.id)) continue
    for (const { id } of arrivedIn(state, queue.id)) {
      const call = current.calls.get(id)!
      const stale = offersOf(call).filter(({ device }) => !serves(current, call, device) || !isMemberOf(current.company, device, queue.id))
      happens(stale.map(({ device }) => ({ type: 'connectionCleared', call: id, device, cause: 'withdrawn' })))
    }
    for (const { call: waiting, promise } of inTheirTurn(current, queue.id)) {
      if (promise) {
        // While nobody is free, none of them has to be looked at.
        if (freeIn(current, queue.id).next().done) continue
        const [device] = mayBeOffered(current, promise) ? rungFor(current, asWaiting(promise), promise.offered, { ...queue, ringing: oneByOne(queue) }) : []
        happens(device === undefined ? [] : [prompt(current, promise, device)])
        continue
      }
      const call = current.calls.get(waiting!.id)!
      if (offersOf(call).length > 0) continue
      if (queue.tries > 0 && triesOf(call, queue) >= queue.tries) happens(sendAway(current, call, queue.id, queue.overflow.to, 'noAnswer'))
      else {
        const tried = call.hunting?.group === queue.id ? call.hunting.tried : []
        happens(rungFor(current, call, tried, queue).map(device => ({ type: 'delivered', call: call.id, device, group: queue.id, offered: true })))
      }
    }
  }
  return happened
}

/** Nobody but one member can call somebody back. */
const oneByOne = ({ ringing }: Group): Ringing => ringing === 'all' ? 'longestFree' : ringing

/** Whom a queue rings for a call: whoever has been rung for it least, and among those as the queue's way says. */
function rungFor(state: ExchangeState, call: Pick<Call, 'refusedBy' | 'line' | 'recall' | 'connections'>, tried: readonly DeviceId[],
  queue: Group): DeviceId[] {
  const free = [...freeIn(state, queue.id)].filter(device => !call.connections.some(({ device: there }) => there === device) && serves(state, call, device))
  if (free.length < 2 || queue.ringing === 'all') return free
  const before = order[queue.ringing](state, queue)
  const times = (device: DeviceId) => tried.filter(other => other === device).length
  // Whoever has been free longest comes first of equals: that is the order in which they stand.
  const [first] = free.sort((a, b) => times(a) - times(b) || before(a) - before(b))
  return first === undefined ? [] : [first]
}

/** By which the lower is rung first. */
const order: Record<Exclude<Ringing, 'all'>, (state: ExchangeState, queue: Group) => (device: DeviceId) => number> = {
  none: () => () => 0,
  longestFree: () => () => 0,
  order: (_state, { members }) => device => members.indexOf(device),
  turn: ({ devices }) => device => devices.get(device)?.offeredAt ?? -1,
  skill: (_state, { skills }) => device => -(lookUp(skills, device) ?? 0),
}

/** A member has let a call ring: that is over, and whoever does so too often is paused, so that callers do not wait for an empty desk. */
export function letRing(state: ExchangeState, call: Call): CallEvent[] {
  const over = isPrompt(call) ? promptOver(call, call.connections[0]!.device, 'noAnswer').slice(1) : []
  return [...offersOf(call).flatMap(({ device, offeredBy }): CallEvent[] => {
    const most = lookUp(state.company.groups, offeredBy!)?.pauseAfter ?? 0
    const times = (state.devices.get(device)?.unanswered ?? 0) + 1
    return [
      { type: 'connectionCleared', call: call.id, device, cause: 'noAnswer' },
      ...(most > 0 && times >= most ? [{ type: 'queueServed', device, queue: offeredBy!, state: 'paused', reason: lettingRing, by: null } as const] : []),
    ]
  }), ...over]
}

/** Why the exchange itself pauses somebody. What a company's own reasons are called is the company's. */
export const lettingRing = 'lettingRing'

/** Why somebody does not serve, to be said. */
export function whyPaused(reason: string | null): Spoken {
  return reason === lettingRing ? phrase('queues.letCallsRing') : reason ?? phrase('queues.paused')
}
