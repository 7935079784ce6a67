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
  for (let ahead = 0; ahead <= longestAhead; ahead++) {
    const candidates = candidatesOn(hours, at + ahead * day).filter(candidate => candidate > at)
    const change = candidates.find(candidate => isOpenAt(hours, candidate) !== open)
    if (change !== undefined) return change
  }
  return null
}

/** When something may change on the day of an instant, and a day around it: at what the week says, at midnight, and where clocks may change. */
function candidatesOn({ zone, week }: Pick<OpeningHours, 'zone' | 'week'>, at: number): number[] {
  const midnight = Math.floor(localTime(zone, at) / day) * day
  const offset = localTime(zone, at) - Math.floor(at / 1_000) * 1_000
  const minutes = new Set([0, 1440, ...week.flatMap(({ opens, closes }) => [opens, closes])])
  const said = [...minutes].map(of => midnight + of * minute - offset)
  const halves = Array.from({ length: 49 }, (_, index) => Math.floor((midnight - offset) / step) * step + index * step)
  return [...said, ...halves].sort((a, b) => a - b)
}
