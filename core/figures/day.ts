import { instantOf, type Offset, offsetsOf } from '../calendar/zones'
import { isMailbox } from '../calls/names'
import type { Leg } from './legs'
import { count, type Counts, noCounts } from './service-level'

/**
 * What happened on one day by the clock of the house, so that it can be kept, and added to that of other days (`report.ts`): a report over years adds up
 * days and reads no calls again. Durations are milliseconds.
 */

/** What is asked: all calls, those on a line, or those in a queue or group (with a line, only the calls that came on it). */
export interface Subject {
  line: string | null
  queue: string | null
}

export interface DayRules {
  zone: string
  /** Within which a line or a group promises an answer. */
  promiseOf: (place: string) => number
  shortAbandon: number
}

/** Somebody was there as an operator. */
export interface Attended { device: string, from: number, until: number }

export interface DayFigures {
  /** By the half-hour that the clock showed, from midnight: those of whom anything was counted, and minutes of conversation in milliseconds. */
  halfHours: Record<string, Counts>
  talked: Record<string, number>
  /** How many waited so many whole seconds; the last stands for all longer ones. */
  answeredAfter: Record<string, number>
  abandonedAfter: Record<string, number>
  lines: Record<string, Counts>
  queues: Record<string, Counts>
  /** Calls passed on, by where to: how many, how many were answered there, how many came back, by the cause. */
  destinations: Record<string, { calls: number, answered: number, back: Record<string, number> }>
  /** By whoever answered, or called. */
  desks: Record<string, { calls: number, talked: number, held: number }>
  /** Of all operators, whatever is asked: how long they were there, and on calls meanwhile. */
  operators: Record<string, { attended: number, engaged: number }>
  slots: Record<string, { stays: number, waited: number, longest: number, taken: number, gaveUp: number }>
  /** From lines to where calls waited first, and on from there. */
  flow: Record<string, Record<string, number>>
  again: { calls: number, answered: number, abandoned: number, other: number }
  blocked: number
}

/** Waits longer than this many seconds are counted as one. */
export const longestWait = 900
const halfHour = 30 * 60_000
const dayLength = 48 * halfHour

/** The instants at which a day begins, and at which it ends. `local`: its midnight as the clock shows it, as if in UTC. */
export function dayBounds(zone: string, local: number): { from: number, until: number } {
  return { from: instantOf(zone, local), until: instantOf(zone, local + dayLength) }
}

/**
 * @param local the midnight of the day; @param legs those of the day and of the day before, whose callers may call again, and older ones that last into it,
 * in their order
 * @param now calls that go on have waited, or talked, until now
 */
export function dayFigures(
  local: number, legs: readonly Leg[], attended: readonly Attended[], { line, queue }: Subject, rules: DayRules, now: number,
): DayFigures {
  const { zone, promiseOf, shortAbandon } = rules
  const { from, until } = dayBounds(zone, local)
  const offsets = offsetsOf(zone, from - dayLength, until + dayLength)
  const day: DayFigures = {
    halfHours: bare(), talked: bare(), answeredAfter: bare(), abandonedAfter: bare(), lines: bare(), queues: bare(), destinations: bare(), desks: bare(),
    operators: {}, slots: bare(), flow: bare(),
    again: { calls: 0, answered: 0, abandoned: 0, other: 0 }, blocked: 0,
  }
  const lastCalls = new Map<string, Leg>()
  for (const leg of legs) {
    const { at, of, place, by, end, back } = leg
    if (line !== null && leg.line !== line) continue
    const inDay = at >= from && at < until
    // Of earlier days only what goes on counts, and who called.
    if (!inDay && of !== 'line' && (of !== 'group' || talkedUntil(leg, now) <= from)) continue
    if (of === 'line' && leg.cause === 'blocked') {
      if (inDay && queue === null) day.blocked++
      continue
    }
    const counts = queue === null ? of === 'line' : of === 'group' && place === queue
    const waited = leg.waited ?? Math.max(0, now - at)
    if (counts && end === 'answered' && by !== null) talkedIn(day.talked, offsets, Math.max(from, at + waited), Math.min(until, talkedUntil(leg, now)))
    if (of === 'line' && leg.number !== null) calledAgain(day.again, lastCalls, leg, leg.number, inDay)
    if (!inDay) continue
    if (counts) {
      const promise = promiseOf(place)
      count(day.halfHours[halfHourOf(offsets, at)] ??= noCounts(), leg, waited, promise, shortAbandon)
      count(day.lines[leg.line ?? ''] ??= noCounts(), leg, waited, promise, shortAbandon)
      if (!back && end === 'answered') add(day.answeredAfter, secondsOf(waited))
      if (!back && end === 'abandoned') add(day.abandonedAfter, secondsOf(waited))
    }
    if (of === 'line' || (queue !== null && place !== queue)) continue
    if (of === 'group') count(day.queues[place] ??= noCounts(), leg, waited, promiseOf(place), shortAbandon)
    if (of === 'slot') stayed(day.slots[place] ??= { stays: 0, waited: 0, longest: 0, taken: 0, gaveUp: 0 }, leg, waited)
    if (leg.passedBy !== null && (of === 'group' || of === 'telephone' || of === 'outside'))
      passedOn(day.destinations[place] ??= { calls: 0, answered: 0, back: bare() }, leg)
    if (by !== null && end === 'answered') hadCall(day.desks[by] ??= { calls: 0, talked: 0, held: 0 }, leg)
    if (!back && leg.passedBy === null && of !== 'joined' && leg.direction === 'inbound') {
      add(day.flow[`line ${leg.line}`] ??= bare(), `at ${place}`)
      add(day.flow[`at ${place}`] ??= bare(), leg.next !== null ? `to ${leg.next}` : end === 'answered' ? 'stayed' : end)
    }
  }
  if (line === null && queue === null) day.operators = operatorsOf(legs, attended, from, until, now)
  return day
}

/** Under any name whatever, also one that every object has already. */
export function bare<T>(): Record<string, T> {
  return Object.create(null) as Record<string, T>
}

function talkedUntil(leg: Leg, now: number): number {
  const begun = leg.at + (leg.waited ?? 0)
  return begun + (leg.talked ?? Math.max(0, now - begun))
}

function secondsOf(waited: number): number {
  return Math.min(longestWait, Math.floor(waited / 1_000))
}

function halfHourOf(offsets: readonly Offset[], at: number): number {
  let index = offsets.length - 1
  while (offsets[index]!.from > at) index--
  const local = at + offsets[index]!.offset
  return Math.floor((local - Math.floor(local / dayLength) * dayLength) / halfHour)
}

/** A conversation counts in each half-hour for as long as it lasted in it. */
function talkedIn(talked: Record<string, number>, offsets: readonly Offset[], begins: number, ends: number): void {
  for (let at = begins; at < ends;) {
    const index = offsets.findLastIndex(({ from }) => from <= at)
    const { offset } = offsets[index]!
    const boundary = Math.min((Math.floor((at + offset) / halfHour) + 1) * halfHour - offset, offsets[index + 1]?.from ?? Infinity, ends)
    add(talked, halfHourOf(offsets, at), boundary - at)
    at = boundary
  }
}

function calledAgain(again: DayFigures['again'], lastCalls: Map<string, Leg>, leg: Leg, number: string, inDay: boolean): void {
  const before = lastCalls.get(number)
  lastCalls.set(number, leg)
  if (!before || !inDay || leg.at - before.at > dayLength) return
  again.calls++
  again[before.end === 'answered' || before.end === 'abandoned' ? before.end : 'other']++
}

function stayed(stays: DayFigures['slots'][string], { end }: Leg, waited: number): void {
  stays.stays++
  stays.waited += waited
  stays.longest = Math.max(stays.longest, waited)
  if (end === 'answered') stays.taken++
  if (end === 'abandoned') stays.gaveUp++
}

function passedOn(destination: DayFigures['destinations'][string], { end, cause, next }: Leg): void {
  destination.calls++
  if (end === 'answered') destination.answered++
  if ((end === 'movedOn' || end === 'failed') && cause !== null && !(next !== null && isMailbox(next))) add(destination.back, cause)
}

function hadCall(desk: DayFigures['desks'][string], { talked, held }: Leg): void {
  desk.calls++
  desk.talked += talked ?? 0
  desk.held += held
}

function add(counts: Record<string, number>, key: string | number, more = 1): void {
  counts[key] = (counts[key] ?? 0) + more
}

/** For how long operators were there, and on calls meanwhile. Who holds one caller and asks a colleague is on calls once: what overlaps counts once. */
function operatorsOf(legs: readonly Leg[], attended: readonly Attended[], from: number, until: number, now: number): DayFigures['operators'] {
  const there = spansOf(attended.map(({ device, ...span }) => ({ device, ...span })), from, until)
  const busy = spansOf(
    legs.flatMap(leg => leg.by !== null && leg.of !== 'line' && leg.end === 'answered' && there.has(leg.by)
      ? [{ device: leg.by, from: leg.at + (leg.waited ?? 0), until: talkedUntil(leg, now) }]
      : []),
    from, until,
  )
  return Object.fromEntries([...there].map(([device, spans]) => {
    const calls = busy.get(device) ?? []
    let engaged = 0
    for (const span of spans) for (const call of calls) engaged += Math.max(0, Math.min(span.until, call.until) - Math.max(span.from, call.from))
    return [device, { attended: spans.reduce((sum, span) => sum + span.until - span.from, 0), engaged }]
  }))
}

/** For each telephone the times of a list within a period, in their order and without overlaps. */
function spansOf(list: readonly Attended[], from: number, until: number): Map<string, { from: number, until: number }[]> {
  const spans = new Map<string, { from: number, until: number }[]>()
  for (const { device, ...one } of [...list].sort((a, b) => a.from - b.from)) {
    const own = spans.get(device) ?? []
    const begins = Math.max(one.from, from, own.at(-1)?.until ?? -Infinity)
    const ends = Math.min(one.until, until)
    if (ends > begins) own.push({ from: begins, until: ends })
    spans.set(device, own)
  }
  return spans
}
