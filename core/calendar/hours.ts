import type { OpeningHours } from '../company/company'
import { localTime } from './zones'

/** Opening hours by the clock of their place: the week, its holidays, and the days on which clocks change. Times are milliseconds since 1970 (UTC). */

const minute = 60_000
const day = 24 * 60 * minute
/** Nothing that is closed longer than this opens again by itself. */
const longestAhead = 400
/** Clocks change on a half hour of UTC at the latest. */
const step = 30 * minute

type Week = Pick<OpeningHours, 'week' | 'holidays'>

/** True when they are open at an instant: from the minute of opening on, until the minute of closing. */
export function isOpenAt({ zone, week, holidays }: Pick<OpeningHours, 'zone' | 'week' | 'holidays'>, at: number): boolean {
  const local = localTime(zone, at)
  const midnight = Math.floor(local / day) * day
  const now = Math.floor((local - midnight) / minute)
  return spansOn({ week, holidays }, midnight).some(({ opens, closes }) => opens <= now && now < closes)
}

/** True when they are open at some moment of a part of a day, told by the clock of the place as if in UTC. */
export function isOpenWithin(hours: Week, from: number, until: number): boolean {
  const midnight = Math.floor(from / day) * day
  return spansOn(hours, midnight).some(({ opens, closes }) => midnight + opens * minute < until && midnight + closes * minute > from)
}

/** When they are open on a day of the place, in minutes of the day. */
function spansOn({ week, holidays }: Week, midnight: number): OpeningHours['week'] {
  const local = new Date(midnight)
  const date = local.toISOString().slice(0, 10)
  if (holidays.some(holiday => holiday.date === date)) return []
  const weekday = local.getUTCDay() || 7
  return week.filter(({ day }) => day === weekday)
}

/** True when they are open, or closed, from one midnight to the next. */
function isAllDay(hours: Week, midnight: number, open: boolean): boolean {
  const spans = [...spansOn(hours, midnight)].sort((a, b) => a.opens - b.opens)
  if (!open) return spans.length === 0
  let covered = 0
  for (const { opens, closes } of spans) if (opens <= covered) covered = Math.max(covered, closes)
  return covered >= 1440
}

/** The next instant at which they open or close; null when they never do within a year. */
export function nextChange(hours: Pick<OpeningHours, 'zone' | 'week' | 'holidays'>, at: number): number | null {
  if (hours.week.length === 0) return null
  const open = isOpenAt(hours, at)
  const today = Math.floor(localTime(hours.zone, at) / day) * day
  for (let ahead = 0; ahead <= longestAhead; ahead++) {
    const midnight = today + ahead * day
    // Whatever clocks do: on such a day they show no time at which it is otherwise.
    if (isAllDay(hours, midnight, open)) continue
    const change = candidatesOn(hours, midnight).find(candidate => candidate > at && isOpenAt(hours, candidate) !== open)
    if (change !== undefined) return change
  }
  return null
}

/** When something may change on a day of the place, in order: what the week says, midnights, changes of clocks. Midnight is the place's, read as UTC. */
function candidatesOn({ zone, week }: Pick<OpeningHours, 'zone' | 'week'>, midnight: number): number[] {
  // The day begins and ends within these two instants whatever its zone, and clocks change once between them at the most.
  const offsets = [...new Set([midnight - day, midnight + 2 * day].map(at => localTime(zone, at) - at))]
  const minutes = new Set([0, 1440, ...week.flatMap(({ opens, closes }) => [opens, closes])])
  const said = offsets.flatMap(offset => [...minutes].map(of => ({ at: midnight + of * minute - offset, local: midnight + of * minute })))
    .filter(({ at, local }) => localTime(zone, at) === local)
  const halves = Array.from({ length: 53 }, (_, index) => Math.floor((midnight - Math.max(...offsets)) / step) * step + index * step)
    .filter(at => Math.floor(localTime(zone, at) / day) * day === midnight)
  return [...said.map(({ at }) => at), ...halves].sort((a, b) => a - b)
}
