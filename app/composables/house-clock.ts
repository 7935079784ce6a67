import dayjs, { type Dayjs } from 'dayjs'
import utc from 'dayjs/plugin/utc'
import { instantOf, localTime } from '~~/core/calendar/zones'
import { nobody } from '~~/core/company/company'
import { useLive } from '~/stores/live'

dayjs.extend(utc)

/** There is one clock, that of the house, wherever somebody looks from. Instants are milliseconds since 1970 (UTC). */

const zone = () => useLive().company?.settings.zone ?? nobody.settings.zone

/** An instant as that clock shows it: to be written, and compared with others that are shown so. */
export function shownAt(at: number): Dayjs {
  return dayjs.utc(localTime(zone(), at))
}

/** The instant at which that clock shows a time. */
export function instantShown(shown: Dayjs): number {
  return instantOf(zone(), shown.valueOf())
}

/** The beginning of a day that somebody has chosen in a calendar (which gives it by the browser's clock), and that of the next. */
export function boundsOfDay(chosen: Date): { from: number, until: number } {
  const midnight = dayjs.utc(Date.UTC(chosen.getFullYear(), chosen.getMonth(), chosen.getDate()))
  return { from: instantShown(midnight), until: instantShown(midnight.add(1, 'day')) }
}
