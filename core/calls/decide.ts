import { phrase } from '../../words/phrase'
import { lookUp } from '../company/lookups'
import { accept, refuse } from './answers'
import { callBacksAfterwards, isPrompt } from './call-backs/call-backs'
import { evolveAll, numbered } from './evolve'
import { intercomEnds, isSpeechOver, refusalOfIntercom } from './paging/intercom'
import type { Call, CallEvent, CallId, Cause, Decision, DeviceId, ExchangeState, ForwardKind, Request } from './model'
import { letRing, offersDue, queuesAfter } from '../queues/offers'
import { sendFromClosed, waitsAtClosed } from '../queues/closing'
import { byItsHours, openingOf } from '../queues/openings'
import { listeningsAfterwards } from './listening/listenings'
import { closed, pagesAfterwards } from './paging/pages'
import { comeBack, ringAgain, ringInstead, sendAway, unanswered } from './passing/passing'
import { callsOf, connectionOf, holdersOf, isConnected, isOperator, isPresent, queueOf, waitingFor } from './questions'
import { isOrphaned } from '../queues/serving'
import { partOf, refusalOfRight } from './rights'
import { recordingAfterwards } from './recording/recordings'
import type { Service } from './service'
import { services } from './services'
import { linesComeBack } from '../queues/set-line-served'
import { told } from '../queues/telling'
import { dueTimers, isDue, nightOf, overflowOf, type Timer } from './timers'
import { arrivedIn } from '../queues/turns'

/** What can be done with a telephone that rings for a call-back. */
const ofPrompts: readonly string[] = ['answerCall', 'clearConnection', 'directedPickupCall']
/** How often what comes of something is followed up at one moment: more often than any chain of rules is long, of which none is gone along twice. */
const mostRounds = 500

/**
 * What a request leads to: the events that make it so, or a refusal that changes nothing.
 * @param now the exchange's time; never before `state.time`
 */
export function decide(state: ExchangeState, request: Request, now: number): Decision {
  if (request.service === 'tick') return accept(...whatIsDue(state, now))
  const decision = answerTo(state, request, now)
  if ('refusal' in decision) return decision
  if (decision.events.length === 0) return decision
  const after = evolveAll(state, numbered(state, decision.events, now))
  return accept(...decision.events, ...afterwards(state, after, decision.events, now))
}

function answerTo(state: ExchangeState, request: Exclude<Request, { service: 'tick' }>, now: number): Decision {
  const service = services[request.service] as unknown as Service<never>
  const asked = { state, request, now }
  if ('call' in request) {
    const call = state.calls.get(request.call)
    if (!call) return refuse('unknownCall', phrase('refusals.thatCallIsOverWhoever'))
    const { device } = request
    if (isPrompt(call) && !ofPrompts.includes(request.service))
      return refuse('notPossibleNow', phrase('refusals.thatRingsForACallBack'))
    const ofCall = { ...asked, call, own: connectionOf(call, device)!, part: partOf(state, call, device), operator: isOperator(state, device) }
    return refusalOfRight(service, ofCall as never) ?? refusalOfIntercom(state, request) ?? service.decide(ofCall as never)
  }
  if (!('device' in request)) return service.decide(asked as never)
  const telephone = lookUp(state.company.telephones, request.device)
  return telephone
    ? service.decide({ ...asked, telephone } as never)
    : refuse('unknownDevice', phrase('refusals.thereIsNoExtension', { device: request.device }))
}

/** Time moves on in steps: what falls due later at the same tick sees what came of the earlier. */
function whatIsDue(state: ExchangeState, now: number): CallEvent[] {
  const happened: CallEvent[] = []
  let current = state
  for (let round = 0; round < mostRounds; round++) {
    const due = dueTimers(current, now)
    if (due.length === 0) break
    for (const timer of due) {
      // What happened a moment ago may have put an end to this wait.
      if (!isDue(current, timer, now)) continue
      const events = timerDue(current, timer, now)
      current = evolveAll(current, numbered(current, events, now))
      happened.push(...events)
    }
  }
  return [...happened, ...afterwards(state, current, happened, now)]
}

function timerDue(state: ExchangeState, { name, owner, line }: Timer, now: number): CallEvent[] {
  switch (name) {
    case 'status': return [{ type: 'statusChanged', device: owner, reason: null, until: null }]
    case 'forwarding':
      return [{ type: 'forwardingChanged', device: owner, when: line as ForwardKind, to: null, by: null, until: null, rings: null }]
    case 'doNotDisturb': return [{ type: 'doNotDisturb', device: owner, on: false, by: null, until: null }]
    case 'lineOffer': return [{ type: 'lineOffered', device: owner, line: line!, to: null }]
    case 'line': return [{ type: 'lineServed', device: owner, line: line!, on: true, until: null }]
    // What becomes of the callers of whoever has gone is seen to with everybody who is on hold with nobody.
    case 'absence': return [{ type: 'agentStateChanged', device: owner, attended: false, leavesAt: null }]
    case 'wrapUp': return [{ type: 'queueServed', device: owner, queue: line!, state: 'serving', reason: null, by: null }]
    case 'opening': return [byItsHours(state, openingOf(owner), now)]
    case 'callBack': return [{ type: 'callBackDeferred', callBack: owner, until: null }]
    case 'callBackLate': return [{ type: 'callBackLate', callBack: owner }]
    case 'page': {
      const page = state.pages.get(owner)!
      return [closed(page, page.waits ? 'busy' : 'noAnswer')]
    }
  }
  const call = state.calls.get(owner)!
  const ends = (cause: Cause): CallEvent[] => [{ type: 'callCleared', call: call.id, device: call.calling, cause }]
  switch (name) {
    case 'ring': return unanswered(state, call, call.connections.find(({ state: its, invitedBy }) => its === 'alerting' && !invitedBy)!, 'noAnswer')
    case 'invite': return call.connections.filter(({ invitedBy }) => invitedBy).flatMap(connection => unanswered(state, call, connection, 'noAnswer'))
    case 'offer': return letRing(state, call)
    case 'tell': return [told(state, call)]
    case 'park': return comeBack(state, call, call.parked!.slot, 'unfetched')
    case 'queue': return comeBack(state, call, queueOf(call)!.device, 'noAnswer')
    case 'overflow': {
      const queue = queueOf(call)!.device
      return sendAway(state, call, queue, overflowOf(state, call, queue).to, 'overflow')
    }
    case 'hold': return leftOnHold(state, call, 'longHold')
    case 'tone': return ends(call.failed!.cause)
    case 'message': return ends('normalClearing')
    case 'watch': return [{ type: 'released', call: call.id, device: call.watched!.by }]
    case 'longest': return ends('tooLong')
  }
}

/**
 * Who is on hold with people who do not come back rings at a colleague again, or waits for the operators.
 * Of several who hold them, as in a conference, the others leave.
 */
function leftOnHold(state: ExchangeState, call: Call, cause: 'longHold' | 'unattended'): CallEvent[] {
  const holders = holdersOf(state, call)
  const last = holders.at(-1)!
  const others = call.connections.filter(other => other !== last && (other.state === 'connected' || !holders.includes(other)) && other.state !== 'alerting')
  // Two of ours who have put each other on hold: one stays.
  const leaving = others.length > 0 ? holders.slice(0, -1) : holders.slice(1, -1)
  const left: CallEvent[] = leaving.map(({ device }) => ({ type: 'connectionCleared', call: call.id, device, cause: 'normalClearing' }))
  const after = evolveAll(state, numbered(state, left, state.time))
  return [...left, ...ringAgain(after, after.calls.get(call.id)!, cause === 'longHold' ? last.device : undefined, last.device, cause)]
}

/** A queue is full, and this call has come behind those that may wait in it. */
function isTooMany(state: ExchangeState, call: Call, queue: DeviceId): boolean {
  const most = lookUp(state.company.groups, queue)?.mostWaiting ?? 0
  return most > 0 && queue !== state.company.settings.operators && arrivedIn(state, queue).indexOf(call) >= most
}

/**
 * Conditions that hold after every request and at all times: nobody is on hold with an operator who has gone, nobody waits where nobody serves,
 * rings at a telephone or is parked in a slot that is no more. Only what has just happened can have broken them.
 */
function afterwards(before: ExchangeState, state: ExchangeState, events: readonly CallEvent[], now: number): CallEvent[] {
  const happened: CallEvent[] = []
  let current = state
  let latest = events
  /** What has happened since queues were last looked at, and the state before it. */
  let [sinceOffers, beforeOffers] = [[...events], before]
  for (let round = 0; round < mostRounds && latest.length > 0; round++) {
    const just = latest
    // Whoever gets a line back serves its callers at once: nobody is sent away meanwhile.
    const lines = linesComeBack(current)
    current = evolveAll(current, numbered(current, lines, now))
    happened.push(...lines)
    // One after the other: whom one of them rings is not free for the next.
    const strays: CallEvent[] = []
    for (const id of concernedBy(current, [...latest, ...lines])) {
      const stray = strayed(current, current.calls.get(id))
      const call = stray.length === 0 ? current.calls.get(id) : undefined
      const events = call ? recordingAfterwards(current, call) : stray
      current = evolveAll(current, numbered(current, events, now))
      strays.push(...events)
    }
    sinceOffers.push(...lines, ...strays)
    const others = strays.length > 0
      ? []
      : firstOf(pagesAfterwards(current), () => listeningsAfterwards(current), () => callBacksAfterwards(current, just, now), () => {
          const concerned = queuesAfter(beforeOffers, current, sinceOffers);
          [sinceOffers, beforeOffers] = [[], current]
          return offersDue(current, concerned, now)
        })
    sinceOffers.push(...others)
    current = evolveAll(current, numbered(current, others, now))
    latest = [...strays, ...others]
    happened.push(...latest)
  }
  return happened
}

function firstOf(events: CallEvent[], ...others: (() => CallEvent[])[]): CallEvent[] {
  const [next, ...more] = others
  return events.length > 0 || !next ? events : firstOf(next(), ...more)
}

/** The calls that events may have let down: those they are about, and those of whoever has gone, gone away or stopped serving a line. */
function concernedBy(state: ExchangeState, events: readonly CallEvent[]): Set<CallId> {
  const concerned = new Set<CallId>()
  for (const event of events) {
    if (event.type === 'configured' || event.type === 'clockAdjusted') for (const id of state.calls.keys()) concerned.add(id)
    else if (event.type === 'openingChanged') for (const { id } of callsOf(state, lookUp(state.company.lines, event.of)?.target ?? event.of)) concerned.add(id)
    else if ('call' in event) concerned.add(event.call)
    else if ('device' in event) for (const { id } of [...callsOf(state, event.device), ...waitingFor(state, event.device)]) concerned.add(id)
  }
  return concerned
}

function strayed(state: ExchangeState, call: Call | undefined): CallEvent[] {
  if (!call) return []
  if (isSpeechOver(state, call)) return [intercomEnds(call, 'normalClearing')]
  const holders = holdersOf(state, call)
  const gone = (device: DeviceId) => state.agents.has(device) && !isPresent(state, device)
  if (holders.length > 0 && holders.every(({ device }) => gone(device))) return leftOnHold(state, call, 'unattended')
  const { slots } = state.company
  if (call.parked && !Object.hasOwn(slots, call.parked.slot)) return comeBack(state, call, call.parked.slot, 'unfetched')
  const dead = call.connections.find(({ device, state: its, party }) => its === 'alerting' && !party && !isConnected(state, device))
  if (dead) return unanswered(state, call, dead, 'outOfService')
  const { operators } = state.company.settings
  const at = queueOf(call)?.device
  if (at !== undefined && waitsAtClosed(state, call, at)) return sendFromClosed(state, call, at)
  const group = at === undefined ? undefined : lookUp(state.company.groups, at)
  if (group && group.distribution !== 'queue') return ringInstead(state, call, group)
  if (at !== undefined && isTooMany(state, call, at)) return sendAway(state, call, at, overflowOf(state, call, at).to, 'overflow')
  if (!isOrphaned(state, call)) return []
  const queue = queueOf(call)!.device
  // From another queue to the operators first, from the operators to where the line's calls go at night.
  return sendAway(state, call, queue, queue === operators ? nightOf(state, call) : operators, 'nobodyServes')
}
