import { isOpenWithin } from '~~/core/calendar/hours'
import { instantOf, localTime } from '~~/core/calendar/zones'
import type { Company } from '~~/core/company/company'
import { lookUp } from '~~/core/company/lookups'
import { addCounts, noCounts, tallyOf } from '~~/core/figures/service-level'
import { forecast, lookBack, type OpenAt } from '~~/core/queues/forecast'
import type { Ahead } from '~~/shared/figures'
import { type Asked, dayLength, figuresOf, rulesOf, todayOf } from './days'
import { t } from '../language'

/** What the coming hours bring to a queue, from the calls of the weeks before. */

const weeksRead = 16
/** How long calls last, and how long callers wait before they give up, is learned from so many days. */
const daysOfHabits = 28
const halfHour = 30 * 60_000
const hoursAhead = 24

/** @throws 404 */
export async function readAhead(asked: Asked, queue: string): Promise<Ahead> {
  const { company, now } = asked
  const group = lookUp(company.groups, queue)
  if (!group || group.distribution !== 'queue') throw createError({ statusCode: 404, message: t('answers.noSuchQueue') })
  const { zone, promiseOf } = rulesOf(company)
  const { local: today } = todayOf(zone, now)
  const arrivals = new Map<number, number[]>()
  const habits = noCounts()
  for await (const [local, { halfHours }] of figuresOf(asked, today - weeksRead * 7 * dayLength, today, { line: null, queue })) {
    const offered = Array.from({ length: 48 }, (_, at) => halfHours[at] ? tallyOf(halfHours[at]).offered : 0)
    arrivals.set(local, offered)
    if (local >= today - daysOfHabits * dayLength) for (const counts of Object.values(halfHours)) addCounts(habits, counts)
  }
  const past = withClosedDays(arrivals, today)
  const { talked, conversations, waited, abandonedAfter, abandoned } = tallyOf(habits)
  const at = Math.floor((localTime(zone, now) - today) / halfHour)
  const open = opensFor(company, queue)
  const days = [
    { local: today, ...forecast(past, today, { seen: arrivals.get(today), now: at, open }) },
    { local: today + dayLength, ...forecast(past, today + dayLength, { open }) },
  ]
  const back = past.size > 0 ? lookBack(past, { open }) : null
  return {
    queue,
    promise: promiseOf(queue),
    length: conversations > 0 ? talked / conversations + group.wrapUp : null,
    // Exponential patience at its likeliest: all the time that anybody waited, over how many gave up.
    patience: abandoned > 0 ? (waited + abandonedAfter) / abandoned : null,
    days: days[0]!.days,
    sameWeekday: days[0]!.sameWeekday,
    halfHours: days.flatMap(({ local, halfHours }) => halfHours.map((expected, slot) => ({ from: instantOf(zone, local + slot * halfHour), ...expected })))
      .filter(({ from }) => from + halfHour > now && from < now + hoursAhead * 60 * 60_000),
    back,
  }
}

/**
 * When anybody can come to a queue: while it is open, and one of the lines that lead to it; of one to which no line leads, any line, whose callers may be sent
 * on to it.
 */
function opensFor({ settings: { zone }, lines, groups, hours }: Company, queue: string): OpenAt {
  const all = Object.values(lines)
  const own = all.filter(({ target }) => target === queue)
  const ways = own.length > 0 ? own : all
  const isOpen = (of: string | null, from: number) => {
    const its = of === null ? null : lookUp(hours, of)
    if (!its) return true
    const begins = its.zone === zone ? from : localTime(its.zone, instantOf(zone, from))
    return isOpenWithin(its, begins, begins + halfHour)
  }
  const dayOf = (local: number) => Array.from({ length: 48 }, (_, slot) => {
    const from = local + slot * halfHour
    return isOpen(lookUp(groups, queue)!.hours, from) && (ways.length === 0 || ways.some(line => isOpen(line.hours, from)))
  })
  const known = new Map<number, boolean[]>()
  return (local, slot) => {
    const day = known.get(local) ?? dayOf(local)
    known.set(local, day)
    return day[slot]!
  }
}

/** Between the first day of which anything is known and today, a day without calls is one on which nobody called. */
function withClosedDays(arrivals: ReadonlyMap<number, number[]>, today: number): Map<number, number[]> {
  const past = new Map<number, number[]>()
  if (arrivals.size === 0) return past
  for (let local = Math.min(...arrivals.keys()); local < today; local += dayLength) past.set(local, arrivals.get(local) ?? Array.from({ length: 48 }, () => 0))
  return past
}
