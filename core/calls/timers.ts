import type { Overflow } from '../company/company'
import { lookUp } from '../company/lookups'
import { forwardOf } from './forwarding/forwarding'
import type { Call, CallBack, CallId, DeviceId, ExchangeState, LineId, Page, PageId } from './model'
import { unliftedIn } from './paging/intercom'
import { isMailbox, mailboxOf } from './names'
import { holdersOf, isAskedFor, isEmergencyNumber, isOutside, isPresent, queueOf } from './questions'

/**
 * When what waits has waited long enough. Timers follow from the state, and the state's indexes hold them in their order: no step that changes a call
 * can forget one.
 * `ring`: nobody answers; `invite`: somebody asked to join does not; `queue`: passed on to a queue in vain; `overflow`: waits too long;
 * `offer`: a member of a queue lets a call of it ring; `tell`: whoever waits hears their place;
 * `park`: nobody comes to the slot; `hold`; `tone`; `message`: the mailbox is full; `watch`: two outside need no watching any more; `longest`: they
 * have talked long enough.
 */
export type TimerName = 'ring' | 'invite' | 'offer' | 'tell' | 'queue' | 'overflow' | 'park' | 'hold' | 'tone' | 'message' | 'watch' | 'longest'

/**
 * The timers of a telephone: `forwarding`: its calls ring there again;
 * `status`: somebody said until when they are away; `doNotDisturb`; `absence`: an operator has gone for good;
 * `line`: a line is to be served again; `lineOffer`: nobody has answered who was asked to take one; `wrapUp`: the time after a call of a queue is over.
 */
export type PlaceTimerName = 'forwarding' | 'status' | 'doNotDisturb' | 'absence' | 'line' | 'lineOffer' | 'wrapUp'

/** `opening`: a line or queue opens or closes by its hours, or somebody's word about it has held long enough. */
export type OpeningTimerName = 'opening'

/** The timers of a promise to call somebody back: it is tried again; it is older than it may be. */
export type CallBackTimerName = 'callBack' | 'callBackLate'

/** The timer of a page: `page`: its speaker is heard no more, or it has waited in vain. */
export type PageTimerName = 'page'

export interface Timer {
  name: TimerName | PlaceTimerName | PageTimerName | OpeningTimerName | CallBackTimerName
  /** The exchange's time, in milliseconds. */
  at: number
  owner: CallId | DeviceId | PageId | string
  /** The line, or the queue, that it is about. */
  line?: LineId | DeviceId
}

/** Whoever is asked to take a line has so long to answer, in milliseconds. */
const lineOfferStands = 120_000

/** An open microphone without a word, and a telephone that has answered by itself where nobody lifts, end after so long, in milliseconds. */
const wordless = 120_000

/** A text by which timers sort by their time; no two timers have the same. */
export function keyOf({ at, owner, name, line = '' }: Timer): string {
  return `${String(Math.max(0, Math.ceil(at))).padStart(16, '0')} ${owner} ${name} ${line}`
}

/** The timers of a call, in no order. */
export function timersOf(state: ExchangeState, call: Call): Timer[] {
  const { settings } = state.company
  /** Of several that ring, the first to give up counts. */
  const first = new Map<TimerName, number>()
  const add = (name: TimerName, at: number) => first.set(name, Math.min(at, first.get(name) ?? Infinity))
  if (call.failed) add('tone', call.failed.at + settings.failedTone)
  if (call.parked) add('park', call.parked.at + settings.parkRecall)
  const queue = queueOf(call)
  if (queue) {
    add('overflow', queue.since + overflowOf(state, call, queue.device).after)
    if (call.passing) add('queue', call.passing.at + settings.queueRecall)
    const every = lookUp(state.company.groups, queue.device)?.tellEvery
    if (every) add('tell', (call.told?.at ?? queue.since) + every)
  }
  for (const { device, state: its, since, invitedBy, offeredBy, party } of call.connections) {
    if (its === 'alerting' && offeredBy) add('offer', since + (lookUp(state.company.groups, offeredBy)?.ringTime ?? 0))
    else if (its === 'alerting' && invitedBy) add('invite', since + settings.transferRecall)
    // An emergency number is rung until it answers.
    else if (its === 'alerting' && !isEmergencyNumber(state, party)) {
      const rings = forwardOf(state, device, 'noAnswer', call)?.rings
      const patience = call.passing ? Math.max(since, call.passing.at) + settings.transferRecall : since + settings.noAnswer
      add('ring', rings ? Math.min(patience, since + rings * settings.ringCycle) : patience)
    }
    else if (its === 'connected' && isMailbox(device)) add('message', since + settings.longestMessage)
  }
  const holders = holdersOf(state, call)
  if (holders[0]) {
    const inSight = holders.every(({ device }) => isPresent(state, device)) || isAskedFor(state, call)
    add('hold', holders[0].since + (inSight ? settings.holdLimit : settings.holdRecall))
  }
  const unlifted = unliftedIn(call)
  if (unlifted) add('longest', unlifted.since + wordless)
  if (isOutside(call)) {
    if (call.watched) add('watch', call.watched.at + settings.outsideWatch)
    add('longest', Math.max(...call.connections.map(({ since }) => since)) + settings.outsideLongest)
  }
  return [...first].map(([name, at]) => ({ name, at, owner: call.id }))
}

/** The timers of a telephone of ours. Until when somebody is away is a time that people have said: it is read by their clock. */
export function timersAtPlace(state: ExchangeState, place: DeviceId): Timer[] {
  const timers: Timer[] = []
  const byTheClock = (name: PlaceTimerName, until: number | null | undefined, line?: LineId) => {
    if (until !== null && until !== undefined) timers.push({ name, at: until - state.clockOffset, owner: place, ...(line !== undefined && { line }) })
  }
  const device = state.devices.get(place)
  byTheClock('status', device?.status.until)
  for (const [when, forward] of Object.entries(device?.forwarding ?? {})) byTheClock('forwarding', forward.until, when)
  byTheClock('doNotDisturb', device?.doNotDisturbUntil)
  for (const [queue, { until }] of Object.entries(device?.absences ?? {}))
    if (until !== null) timers.push({ name: 'wrapUp', at: until, owner: place, line: queue })
  const agent = state.agents.get(place)
  if (agent?.leavesAt != null) timers.push({ name: 'absence', at: agent.leavesAt, owner: place })
  for (const [line, until] of Object.entries(agent?.unserved ?? {})) byTheClock('line', until, line)
  for (const [line, { at }] of Object.entries(agent?.offers ?? {})) timers.push({ name: 'lineOffer', at: at + lineOfferStands, owner: place, line })
  return timers
}

/** The timer of a page: it does not stay open, and does not wait, for ever; whoever goes on and says nothing has forgotten it. */
export function timersOfPage({ company: { settings } }: ExchangeState, { id, waits, at, heardAt, saidAt }: Page): Timer[] {
  return [{ name: 'page', at: waits ? at + settings.pageWait : Math.min(heardAt + settings.pageSilence, saidAt + wordless), owner: id }]
}

/** The timers of a promise: when it is tried again, and when it is told to be late. */
export function timersOfCallBack({ company: { settings } }: ExchangeState, { id, notBefore, promisedAt, late }: CallBack): Timer[] {
  return [
    ...notBefore === null ? [] : [{ name: 'callBack', at: notBefore, owner: id } as const],
    ...late ? [] : [{ name: 'callBackLate', at: promisedAt + settings.callBackWithin, owner: id } as const],
  ]
}

/** How long a call waits in a queue at most, and where it goes then: its line's or its queue's word, or else a mailbox. */
export function overflowOf(state: ExchangeState, call: Call, queue: DeviceId): Overflow {
  if (queue !== state.company.settings.operators) return state.company.groups[queue]?.overflow ?? { after: 0, to: state.company.settings.operators }
  const line = call.line ? lookUp(state.company.lines, call.line) : undefined
  return line?.overflow ?? { after: state.company.settings.overflow, to: nightOf(state, call) }
}

/** Where a call goes that nobody serves: its line's night destination, or the mailbox of whoever was called. */
export function nightOf(state: ExchangeState, call: Call): string {
  const line = call.line ? lookUp(state.company.lines, call.line) : undefined
  return line?.night ?? lastMailbox(state, call)
}

/** The mailbox that takes a call when nothing else does. */
export function lastMailbox(state: ExchangeState, call: Call): DeviceId {
  if (call.line && lookUp(state.company.lines, call.line)) return mailboxOf(call.line)
  const rang = call.story.find(step => state.devices.has(step.device) && step.device !== call.calling)
  return mailboxOf(rang?.device ?? Object.keys(state.company.lines)[0] ?? state.company.settings.operators)
}

/** When a call passed on comes back, or one parked: null when it does not by itself. */
export function deadlineOf(state: ExchangeState, call: Call): number | null {
  const times = timersOf(state, call).filter(({ name }) => name === 'ring' || name === 'queue' || name === 'park').map(({ at }) => at)
  return times.length > 0 ? Math.min(...times) : null
}

/** The earliest time at which a tick would change something, or null. */
export function nextDeadline(state: ExchangeState): number | null {
  const first = state.indexes.timers.minKey()
  return first === undefined ? null : state.indexes.timers.get(first)!.at
}

/** What is due at `now`, the earliest first. */
export function dueTimers(state: ExchangeState, now: number): Timer[] {
  const due: Timer[] = []
  for (const timer of state.indexes.timers.values()) {
    if (timer.at > now) break
    due.push(timer)
  }
  return due
}

/** True while a timer runs and is due at `now`. */
export function isDue(state: ExchangeState, timer: Timer, now: number): boolean {
  return state.indexes.timersOf.get(timer.owner)?.some(({ name, line, at }) => name === timer.name && line === timer.line && at <= now) ?? false
}
