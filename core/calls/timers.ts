import type { Call, CallId, DeviceId, ExchangeState, Overflow } from './model'
import { isMailbox, mailboxOf } from './names'
import { holdersOf, isEmergencyNumber, isOutside, isPresent, lookUp, queueOf } from './questions'

/**
 * When what waits has waited long enough. Timers follow from the state and are not kept in it: no step that changes a call can forget one.
 * `ring`: nobody answers; `invite`: somebody asked to join does not; `queue`: passed on to a queue in vain; `overflow`: waits too long;
 * `park`: nobody comes to the slot; `hold`; `tone`; `message`: the mailbox is full; `watch`: two outside need no watching any more; `longest`: they have talked long enough.
 */
export type TimerName = 'ring' | 'invite' | 'queue' | 'overflow' | 'park' | 'hold' | 'tone' | 'message' | 'watch' | 'longest'

export interface Timer {
  name: TimerName
  /** The exchange's time, in milliseconds. */
  at: number
}

/** Calls for whose caller somebody is being asked. */
export function askedFor(state: ExchangeState): ReadonlySet<CallId> {
  return new Set(Object.values(state.calls).flatMap(({ consultation }) => consultation ? [consultation] : []))
}

/**
 * The timers of a call, in no order.
 * @param asked the calls for whose caller somebody is being asked
 */
export function timersOf(state: ExchangeState, call: Call, asked: ReadonlySet<CallId>): Timer[] {
  const { settings } = state
  const timers: Timer[] = []
  const add = (name: TimerName, at: number) => timers.push({ name, at })
  if (call.failed) add('tone', call.failed.at + settings.failedTone)
  if (call.parked) add('park', call.parked.at + settings.parkRecall)
  const queue = queueOf(call)
  if (queue) {
    add('overflow', queue.since + overflowOf(state, call, queue.device).after)
    if (call.passing) add('queue', call.passing.at + settings.queueRecall)
  }
  for (const { device, state: its, since, invitedBy, party } of call.connections) {
    if (its === 'alerting' && invitedBy) add('invite', since + settings.transferRecall)
    // An emergency number is rung until it answers.
    else if (its === 'alerting' && !isEmergencyNumber(state, party)) add('ring', call.passing ? Math.max(since, call.passing.at) + settings.transferRecall : since + settings.noAnswer)
    else if (its === 'connected' && isMailbox(device)) add('message', since + settings.longestMessage)
  }
  const holders = holdersOf(state, call)
  const inSight = asked.has(call.id) || holders.every(({ device }) => isPresent(state, device))
  if (holders[0]) add('hold', holders[0].since + (inSight ? settings.holdLimit : settings.holdRecall))
  if (isOutside(call)) {
    if (call.watched) add('watch', call.watched.at + settings.outsideWatch)
    add('longest', Math.max(...call.connections.map(({ since }) => since)) + settings.outsideLongest)
  }
  return timers
}

/** How long a call waits in a queue at most, and where it goes then: its line's or its queue's word, or else a mailbox. */
export function overflowOf(state: ExchangeState, call: Call, queue: DeviceId): Overflow {
  if (queue !== state.settings.operators) return state.groups[queue]!.overflow
  const line = call.line ? lookUp(state.lines, call.line) : undefined
  return line?.overflow ?? { after: state.settings.overflow, to: nightOf(state, call) }
}

/** Where a call goes that nobody serves: its line's night destination, or the mailbox of whoever was called. */
export function nightOf(state: ExchangeState, call: Call): string {
  const line = call.line ? lookUp(state.lines, call.line) : undefined
  return line?.night ?? lastMailbox(state, call)
}

/** The mailbox that takes a call when nothing else does. */
export function lastMailbox(state: ExchangeState, call: Call): DeviceId {
  if (call.line && lookUp(state.lines, call.line)) return mailboxOf(call.line)
  const rang = call.story.find(step => state.devices[step.device] && step.device !== call.calling)
  return mailboxOf(rang?.device ?? Object.values(state.lines)[0]!.id)
}

/** When a call passed on comes back, or one parked: null when it does not by itself. */
export function deadlineOf(state: ExchangeState, call: Call): number | null {
  const times = timersOf(state, call, new Set()).filter(({ name }) => name === 'ring' || name === 'queue' || name === 'park').map(({ at }) => at)
  return times.length > 0 ? Math.min(...times) : null
}

/** The earliest time at which a tick would change something, or null. */
export function nextDeadline(state: ExchangeState): number | null {
  let next: number | null = null
  const consider = (at: number | null) => {
    if (at !== null && (next === null || at < next)) next = at
  }
  const asked = askedFor(state)
  for (const call of Object.values(state.calls)) for (const { at } of timersOf(state, call, asked)) consider(at)
  // Until when somebody is away is a time that people have said.
  const byTheClock = (until: number | null) => consider(until === null ? null : until - state.clockOffset)
  for (const { status, doNotDisturbUntil } of Object.values(state.devices)) {
    byTheClock(status.until)
    byTheClock(doNotDisturbUntil)
  }
  for (const { leavesAt, unserved } of Object.values(state.agents)) {
    consider(leavesAt)
    for (const until of Object.values(unserved)) byTheClock(until)
  }
  return next
}

/** What is due at `now`, the earliest first. */
export function dueTimers(state: ExchangeState, now: number): (Timer & { call: CallId })[] {
  const asked = askedFor(state)
  return Object.values(state.calls)
    .flatMap(call => timersOf(state, call, asked).filter(({ at }) => at <= now).map(timer => ({ ...timer, call: call.id })))
    .sort((a, b) => a.at - b.at || a.call.localeCompare(b.call) || a.name.localeCompare(b.name))
}
