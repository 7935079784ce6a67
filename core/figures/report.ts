import { offsetsOf } from '../calendar/zones'
import type { Cause } from '../calls/model'
import { bare, dayBounds, type DayFigures, longestWait } from './day'
import { addCounts, type Counts, noCounts, type Tally, tallyOf } from './service-level'

/** What happened in a period: the figures of its days, added up. Durations are milliseconds. */

export interface NamedTally extends Tally { id: string }
export interface Operator {
  id: string
  calls: number
  talked: number
  held: number
  /** How long they were there as an operator, and for how long of it on calls. */
  attended: number
  engaged: number
}
export interface Parked { slot: string, stays: number, waited: number, longest: number, taken: number, gaveUp: number }
export interface Link { from: string, to: string, calls: number }

export interface Report {
  total: Tally
  /** Calls of blocked callers: in no other figure. */
  blocked: number
  /** By the half-hour that the clock showed, from midnight, with minutes of conversation; `times`: how often it showed it in the period. */
  byHalfHour: { tally: Tally, minutes: number, times: number }[]
  /** By day, or when that were too many by week (from Monday) or month. `from`: the first day of each, its midnight as the clock shows it, as if in UTC. */
  step: 'day' | 'week' | 'month'
  bySteps: { from: number, tally: Tally }[]
  byLine: NamedTally[]
  byQueue: NamedTally[]
  /** Where calls were passed on to, and how many came back, by the cause. */
  byDestination: { id: string, calls: number, answered: number, back: { cause: Cause, calls: number }[] }[]
  operators: Operator[]
  /** How many waited so many whole seconds, the last for all longer ones. */
  waits: { answered: number[], abandoned: number[] }
  /** From lines to where calls waited first, and on to where they went. */
  flow: Link[]
  /** Calls of somebody who had called within a day before, by what had become of that call. */
  again: DayFigures['again']
  parkings: Parked[]
}

const day = 24 * 60 * 60_000
const halfHour = 30 * 60_000
/** With more days than this weeks are shown, with more than that months. */
const mostDays = 92
const mostWeeks = 731

/** Adds up the days of a period, from its first to its last. */
export class ReportMaker {
  private readonly halfHours: Counts[] = Array.from({ length: 48 }, noCounts)
  private readonly talked: number[] = Array.from({ length: 48 }, () => 0)
  private readonly steps: { from: number, counts: Counts }[] = []
  private readonly lines: Record<string, Counts> = bare()
  private readonly queues: Record<string, Counts> = bare()
  private readonly destinations: Record<string, { calls: number, answered: number, back: Record<string, number> }> = bare()
  private readonly desks: Record<string, Omit<Operator, 'id'>> = bare()
  private readonly slots: Record<string, Omit<Parked, 'slot'>> = bare()
  private readonly flow: Record<string, Record<string, number>> = bare()
  private readonly waits = { answered: secondsOf(), abandoned: secondsOf() }
  private readonly again = { calls: 0, answered: 0, abandoned: 0, other: 0 }
  private readonly step: Report['step']
  private blocked = 0

  /** @param first the midnight of the first day as the clock shows it, as if in UTC; @param last that of the last */
  constructor(private readonly zone: string, private readonly first: number, private readonly last: number) {
    const days = (last - first) / day + 1
    this.step = days <= mostDays ? 'day' : days <= mostWeeks ? 'week' : 'month'
    for (let local = first; local <= last; local += day) if (local === first || begins(local, this.step)) this.steps.push({ from: local, counts: noCounts() })
  }

  /** Days without calls need not be given. */
  add(local: number, figures: DayFigures): void {
    const step = this.steps.findLast(({ from }) => from <= local)!
    for (const [slot, counts] of Object.entries(figures.halfHours)) {
      addCounts(this.halfHours[Number(slot)]!, counts)
      addCounts(step.counts, counts)
    }
    for (const [slot, ms] of Object.entries(figures.talked)) this.talked[Number(slot)]! += ms
    for (const [id, counts] of Object.entries(figures.lines)) addCounts(this.lines[id] ??= noCounts(), counts)
    for (const [id, counts] of Object.entries(figures.queues)) addCounts(this.queues[id] ??= noCounts(), counts)
    for (const [seconds, calls] of Object.entries(figures.answeredAfter)) this.waits.answered[Number(seconds)]! += calls
    for (const [seconds, calls] of Object.entries(figures.abandonedAfter)) this.waits.abandoned[Number(seconds)]! += calls
    for (const [from, links] of Object.entries(figures.flow)) addTo(this.flow[from] ??= bare(), links)
    for (const [id, { calls, answered, back }] of Object.entries(figures.destinations)) {
      const destination = this.destinations[id] ??= { calls: 0, answered: 0, back: bare() }
      destination.calls += calls
      destination.answered += answered
      addTo(destination.back, back)
    }
    for (const [id, { calls, talked, held }] of Object.entries(figures.desks)) {
      const desk = this.deskOf(id)
      desk.calls += calls
      desk.talked += talked
      desk.held += held
    }
    for (const [id, { attended, engaged }] of Object.entries(figures.operators)) {
      const desk = this.deskOf(id)
      desk.attended += attended
      desk.engaged += engaged
    }
    for (const [id, stays] of Object.entries(figures.slots)) {
      const slot = this.slots[id] ??= { stays: 0, waited: 0, longest: 0, taken: 0, gaveUp: 0 }
      const longest = Math.max(slot.longest, stays.longest)
      addTo(slot, stays)
      slot.longest = longest
    }
    addTo(this.again, figures.again)
    this.blocked += figures.blocked
  }

  private deskOf(id: string): Omit<Operator, 'id'> {
    return this.desks[id] ??= { calls: 0, talked: 0, held: 0, attended: 0, engaged: 0 }
  }

  finish(): Report {
    const total = noCounts()
    for (const { counts } of this.steps) addCounts(total, counts)
    const times = timesShown(this.zone, this.first, this.last)
    const named = (all: Record<string, Counts>) => Object.entries(all).map(([id, counts]) => ({ id, ...tallyOf(counts) }))
    return {
      total: tallyOf(total),
      blocked: this.blocked,
      byHalfHour: this.halfHours.map((counts, at) => ({ tally: tallyOf(counts), minutes: this.talked[at]! / 60_000, times: times[at]! })),
      step: this.step,
      bySteps: this.steps.map(({ from, counts }) => ({ from, tally: tallyOf(counts) })),
      byLine: named(this.lines),
      byQueue: named(this.queues),
      byDestination: Object.entries(this.destinations).map(([id, { calls, answered, back }]) => ({
        id, calls, answered, back: Object.entries(back).map(([cause, many]) => ({ cause: cause as Cause, calls: many })),
      })),
      operators: Object.entries(this.desks).map(([id, sums]) => ({ id, ...sums })),
      waits: this.waits,
      flow: Object.entries(this.flow).flatMap(([from, links]) => Object.entries(links).map(([to, calls]) => ({ from, to, calls }))),
      again: this.again,
      parkings: Object.entries(this.slots).map(([slot, stays]) => ({ slot, ...stays })),
    }
  }
}

function secondsOf(): number[] {
  return Array.from({ length: longestWait + 1 }, () => 0)
}

function addTo<T extends object>(to: T, from: Partial<T>): void {
  const counts = to as Record<string, number>
  for (const [key, more] of Object.entries(from as Record<string, number>)) counts[key] = (counts[key] ?? 0) + more
}

function begins(local: number, step: Report['step']): boolean {
  const date = new Date(local)
  return step === 'day' || (step === 'week' ? date.getUTCDay() === 1 : date.getUTCDate() === 1)
}

/** How often the clock shows each half-hour in a period: on a day on which it is changed some twice, or never. */
function timesShown(zone: string, first: number, last: number): number[] {
  const [from, until] = [dayBounds(zone, first).from, dayBounds(zone, last).until]
  const shown = Array.from({ length: 48 }, () => 0)
  const offsets = offsetsOf(zone, from, until)
  for (const [index, { from: since, offset }] of offsets.entries()) {
    const begin = since + offset
    const end = Math.min(until, offsets[index + 1]?.from ?? Infinity) + offset
    const whole = Math.floor((end - begin) / day)
    for (let slot = 0; slot < 48; slot++) shown[slot]! += whole
    for (let at = begin + whole * day; at < end;) {
      const boundary = Math.min((Math.floor(at / halfHour) + 1) * halfHour, end)
      shown[Math.floor((at - Math.floor(at / day) * day) / halfHour)]! += (boundary - at) / halfHour
      at = boundary
    }
  }
  return shown
}
