import { phrase } from '~~/words/phrase'
import { Unreadable } from '~~/core/schema/faults'
import { readCalendar } from '~~/core/calendar/occurrences'
import { localTime } from '~~/core/calendar/zones'
import type { OpeningHours } from '~~/core/company/company'

const dayLong = 24 * 60 * 60_000
/** Of one holiday, in days. */
const longest = 31

/** Reads whole days of a calendar as holidays, beside the interface: what somebody else wrote may repeat for ever. */
globalThis.onmessage = ({ data: { text, zone, window } }: MessageEvent<{ text: string, zone: string, window: { from: number, to: number } }>) => {
  try {
    const { occurrences } = readCalendar(text, { titles: true, window, zone })
    const days = occurrences.filter(({ allDay }) => allDay).flatMap(({ from, to, title }): OpeningHours['holidays'] => {
      const [first, end] = [from, to].map(at => Math.floor(localTime(zone, at) / dayLong)) as [number, number]
      const dayAfter = (days: number) => new Date((first + days) * dayLong).toISOString().slice(0, 10)
      return Array.from({ length: Math.min(longest, Math.max(1, end - first)) }, (_, days) => ({ date: dayAfter(days), name: title }))
    })
    globalThis.postMessage({ holidays: days })
  }
  catch (error) {
    globalThis.postMessage({ fault: error instanceof Unreadable ? error.what : phrase('calendar.unreadable') })
  }
}
