import type { OpeningHours } from '../company/company'
import { localTime } from './zones'

/** Opening hours by the clock of their place: the week, its holidays, and the days on which clocks change. Times are milliseconds since 1970 (UTC). */

const minute = 60_000
const day = 24 * 60 * minute
/** Nothing that is closed longer than this opens again by itself. */
const longestAhead = 400
/** Clocks change on a half hour of UTC at the latest. */
const step = 30 * minute

/** True when they are open at an instant: from the minute of opening on, until the minute of closing. */
export function isOpenAt({ zone, week, holidays }: Pick<OpeningHours, 'zone' | 'week' | 'holidays'>, at: number): boolean {
  const local = new Date(localTime(zone, at))
  const date = local.toISOString().slice(0, 10)
  if (holidays.some(holiday => holiday.date === date)) return false
  const weekday = local.getUTCDay() || 7
  const now = local.getUTCHours() * 60 + local.getUTCMinutes()
  return week.some(({ day, opens, closes }) => day === weekday && opens <= now && now < closes)
}

/** The next instant at which they open or close; null when they never do within a year. */
export function nextChange(hours: Pick<OpeningHours, 'zone' | 'week' | 'holidays'>, at: number): number | null {
  if (hours.week.length === 0) return null
  const open = isOpenAt(hours, at)
  const today = Math.floor(localTime(hours.zone, at) / day) * day
  for (let ahead = 0; ahead <= longestAhead; ahead++) {
    const change = candidatesOn(hours, today + ahead * day).find(candidate => candidate > at && isOpenAt(hours, candidate) !== open)
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
