import { phrase, type Phrase } from '../../../words/phrase'
import type { Group } from '../../company/company'
import { isMemberOf, lookUp } from '../../company/lookups'
import { formatNumber } from '../../numbers/dialled'
import { classOf } from '../../numbers/number-class'
import { callIdOf } from '../beginning'
import { reindexCallBack } from '../indexes'
import type { Call, CallBack, CallBackId, CallEvent, DeviceId, ExchangeState, NumberedEvent, Party, Unanswered } from '../model'
import { isOpen, timerOfOpening } from '../../queues/openings'
import { isServing, memberPlace, serves } from '../../queues/serving'
import { freeTrunk, isConnected, isOperator, telephoneOf } from '../questions'

/**
 * Callers whom we have promised to call back. A promise keeps the place that its caller had in the queue: when it is their turn, a member is rung first, and
 * once that one is there, the caller. It ends when they have talked with somebody of the queue, when they could not be reached so many times, or by hand.
 */

/** A member rings, so that they may call somebody back: nobody is on the line yet. */
export function isPrompt(call: Call): boolean {
  return call.callBack !== undefined && call.connections.every(({ state, offeredBy }) => state === 'alerting' && offeredBy)
}

/** A queue that does not say how often it tries rings so many times for a promise. */
const usualTries = 5

function triesIn({ tries }: Group): number {
  return tries || usualTries
}

/** The number that reaches the caller is in a call of ours at present, other than one that calls them back. */
export function onTheLine(state: ExchangeState, { party: { number }, id }: Pick<CallBack, 'party' | 'id'>): Call | undefined {
  return state.calls.find(call => call.callBack !== id && call.connections.some(({ party }) => party && party.number === number))
}

/** True when a queue may ring somebody for this promise: nobody in particular has it, it is time, the queue and the line are open, and there is a channel. */
export function mayBeOffered(state: ExchangeState, promise: CallBack): boolean {
  const queue = lookUp(state.company.groups, promise.queue)
  if (!queue || promise.call || promise.assigned || promise.notBefore !== null || promise.offered.length >= triesIn(queue)) return false
  return isOpenFor(state, promise) && freeTrunk(state) !== undefined && !onTheLine(state, promise) && mayBeCalled(state, promise)
}

/** The rules of the company still let somebody be called back at this number: what they forbid since is for the operators to see to. */
function mayBeCalled({ company: { settings } }: ExchangeState, { party: { number } }: CallBack): boolean {
  const kind = classOf(number ?? '', settings)
  return settings.callsTo.includes(kind) && settings.callBacksTo.includes(kind)
}

/** Nobody is called back by a queue, or about a line, that is closed. */
export function isOpenFor(state: ExchangeState, { queue, line }: CallBack): boolean {
  return isOpen(state, queue) && (!line || isOpen(state, line))
}

/** A promise as if its caller still waited in the queue. */
export function asWaiting({ line, queue, since }: CallBack): Pick<Call, 'refusedBy' | 'line' | 'recall' | 'connections'> {
  return { refusedBy: [], line, recall: null, connections: [{ device: queue, state: 'queued', since }] }
}

/** The call that is under way for a promise, a member who is only rung included. */
export function callFor(state: ExchangeState, { call }: CallBack): Call | undefined {
  return call === null ? undefined : state.calls.get(call)
}

/** Who is rung at present, so that they may keep a promise. */
function rungFor(state: ExchangeState, promise: CallBack): { call: Call, device: DeviceId } | null {
  const call = callFor(state, promise)
  const [rung] = call && isPrompt(call) ? call.connections : []
  return call && rung ? { call, device: rung.device } : null
}

/** The member who is rung at present for a promise, if somebody is, is rung no longer. */
export function promptWithdrawn(state: ExchangeState, promise: CallBack): CallEvent[] {
  const rung = rungFor(state, promise)
  return rung ? promptOver(rung.call, rung.device, 'withdrawn') : []
}

/** What it was promised in is there, and still a queue. */
function hasQueue({ company: { groups } }: ExchangeState, { queue }: CallBack): boolean {
  return lookUp(groups, queue)?.distribution === 'queue'
}

/**
 * Somebody is rung for a promise who is not to call back any more: it is no queue now or they do not serve it, another has it, the caller is on the line, or
 * no channel is free.
 */
function isStale(state: ExchangeState, promise: CallBack): boolean {
  const rung = rungFor(state, promise)
  if (!rung) return false
  const serving = serves(state, asWaiting(promise), rung.device) && isMemberOf(state.company, rung.device, promise.queue)
  return !hasQueue(state, promise) || !serving || promise.assigned !== null || onTheLine(state, promise) !== undefined || freeTrunk(state) === undefined
}

/** Somebody is rung no longer who was to call back. */
export function promptOver(call: Call, device: DeviceId, cause: 'withdrawn' | Unanswered): CallEvent[] {
  return [{ type: 'connectionCleared', call: call.id, device, cause }, { type: 'callCleared', call: call.id, device, cause }]
}

/** A member is rung for a promise. */
export function prompt(state: ExchangeState, { id, party, queue }: CallBack, device: DeviceId): CallEvent {
  return {
    type: 'originated', call: callIdOf(state), device, direction: 'outbound', dialled: party.number ?? '', line: null, callBack: id, prompted: { queue, party },
  }
}

/** What holds of promises at all times, wherever what has just happened broke it: each has a queue that is there, an end, and a next time. */
export function callBacksAfterwards(state: ExchangeState, latest: readonly CallEvent[], now: number): CallEvent[] {
  if (state.callBacks.isEmpty()) return []
  const served = new Map<DeviceId, boolean>()
  const talking = talkingByNumber(callsOfEvents(state, latest))
  return [...state.callBacks.values()].flatMap((promise): CallEvent[] => {
    const { id, queue, assigned } = promise
    const { groups, settings: { operators } } = state.company
    const call = callFor(state, promise)
    if (promise.call !== null && !call) return [triedInVain(state, promise, now)]
    const met = metBy(state, promise, talking.get(promise.party.number ?? '') ?? [])
    if (met) return [...promptWithdrawn(state, promise), { type: 'callBackEnded', callBack: id, end: met.end, by: met.by, word: null }]
    const block = state.blocked.get(promise.party.number ?? '')
    if (block && (!call || isPrompt(call)))
      return [...promptWithdrawn(state, promise), { type: 'callBackEnded', callBack: id, end: 'withdrawn', by: block.by, word: null }]
    if (isStale(state, promise)) return promptWithdrawn(state, promise)
    if (!hasQueue(state, promise)) return queue === operators ? [] : [{ type: 'callBackMoved', callBack: id, queue: operators, by: null }]
    // Whoever has it can do nothing any more: it is everybody's again.
    if (assigned && !isConnected(state, assigned)) return [{ type: 'callBackAssigned', callBack: id, to: null, by: null }]
    const stands = promise.call !== null || assigned !== null || promise.notBefore !== null || queue === operators
    return stands || (promise.offered.length < triesIn(groups[queue]!) && isServedSometime(promise) && mayBeCalled(state, promise))
      ? []
      : [{ type: 'callBackMoved', callBack: id, queue: operators, by: null }]
  })

  /** Somebody serves its queue, or will once it opens: like a caller who waits there. */
  function isServedSometime({ queue, line }: CallBack): boolean {
    const closed = [queue, ...line === null ? [] : [line]].filter(of => !isOpen(state, of))
    if (closed.length > 0) return closed.every(of => timerOfOpening(state, of) !== null)
    const known = served.get(queue) ?? state.company.groups[queue]!.members.some(member => isServing(memberPlace(state, queue, member)))
    served.set(queue, known)
    return known
  }
}

/** The calls in which somebody may have begun to talk: those that events are about; any, once others are members of a queue or have a promise. */
function callsOfEvents(state: ExchangeState, events: readonly CallEvent[]): Iterable<Call> {
  if (events.some(({ type }) => type === 'configured' || type === 'callBackAssigned' || type === 'callBackMoved')) return state.calls.values()
  return new Set(events.flatMap(event => 'call' in event ? state.calls.get(event.call) ?? [] : []))
}

/** The calls in which somebody outside is connected, by their number. */
function talkingByNumber(calls: Iterable<Call>): Map<string, Call[]> {
  const byNumber = new Map<string, Call[]>()
  for (const call of calls) {
    for (const { party, state } of call.connections) {
      if (party?.number && state === 'connected') byNumber.set(party.number, [...byNumber.get(party.number) ?? [], call])
    }
  }
  return byNumber
}

/**
 * Who has talked with the caller: in the call that calls them back anybody; in another somebody of the queue, also on the mobile that rang along with their
 * telephone. Whoever promised it in the middle of a call, or was in it then, meant a later one.
 */
function metBy(state: ExchangeState, promise: CallBack, theirCalls: readonly Call[]): { end: 'reached' | 'calledAgain', by: DeviceId } | null {
  for (const call of theirCalls) {
    const calls = call.id === promise.call
    for (const connection of call.connections) {
      const device = connection.state === 'connected' ? telephoneOf(state, connection) : undefined
      if (device === undefined) continue
      const later = call.created > promise.promisedAt || (device !== promise.by && connection.since > promise.promisedAt)
      if (calls || (later && (isMemberOf(state.company, device, promise.queue) || device === promise.assigned)))
        return { end: calls ? 'reached' : 'calledAgain', by: device }
    }
  }
  return null
}

/** The call that was to keep the promise is over, and nobody has talked: another time, or, after so many, a word to the caller. */
function triedInVain(state: ExchangeState, promise: CallBack, now: number): CallEvent {
  const { callBackTries, callBackAgain } = state.company.settings
  const { id, rung, tries } = promise
  if (!rung) return { type: 'callBackDeferred', callBack: id, until: null }
  return tries < callBackTries
    ? { type: 'callBackDeferred', callBack: id, until: now + callBackAgain }
    : { type: 'callBackEnded', callBack: id, end: 'unreached', by: null, word: lastWord(state, promise) }
}

/** What a caller is told whom we could not reach. */
function lastWord(state: ExchangeState, { line, tries }: CallBack): Phrase {
  const called = lookUp(state.company.lines, line ?? '')
  const again = called
    ? phrase('callers.callUsAgain', { name: called.name, number: formatNumber(called.number, state.company.settings) })
    : phrase('callers.pleaseCallUsAgain')
  return phrase('callers.weTriedToCallYou', { count: tries, again })
}

/** What an event within a call does to the promise that the call is to keep. */
export function promiseAfter(next: ExchangeState, event: NumberedEvent): ExchangeState {
  const id = event.type === 'originated' ? event.callBack : event.type === 'promptAnswered' ? next.calls.get(event.call)?.callBack : undefined
  const promise = id === undefined ? undefined : next.callBacks.get(id)
  if (!promise) return next
  const change: Partial<CallBack> = event.type === 'originated' && event.prompted
    ? { call: event.call, rung: false, offered: [...promise.offered, event.device] }
    : { rung: true, tries: promise.tries + 1, notBefore: null, offered: [], ...(event.type === 'originated' && { call: event.call }) }
  next.callBacks = next.callBacks.set(promise.id, { ...promise, ...change })
  reindexCallBack(next, promise.id)
  return next
}

/** Whoever is rung is called what they were called when they called us. */
export function named(events: readonly CallEvent[], party: Party | null): CallEvent[] {
  const name = party?.name ?? null
  return events.map(event => event.type === 'delivered' && event.party ? { ...event, party: { ...event.party, name: event.party.name ?? name } } : event)
}

/** The promise, open or over, or undefined. */
export function promiseOf(state: ExchangeState, id: CallBackId): CallBack | undefined {
  return state.callBacks.get(id) ?? state.callBacksOver.find(over => over.id === id)
}

/** True when somebody may see to this promise: operators, members of its queue, and whoever has it. */
export function maySeeTo(state: ExchangeState, { queue, assigned }: CallBack, device: DeviceId): boolean {
  return isOperator(state, device) || isMemberOf(state.company, device, queue) || assigned === device
}

/** Somebody to whom a promise was made already for the same queue. */
export function promisedTo(state: ExchangeState, number: string, queue: DeviceId): CallBack | undefined {
  return state.callBacks.find(promise => promise.party.number === number && promise.queue === queue)
}
