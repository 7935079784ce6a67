import { clockOfMinute } from '~~/core/calendar/zones'
import type { Greeting, OpeningHours } from '~~/core/company/company'

/** A week, its holidays, and greetings by time of day as lines that people write. */

const days = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const

export function weekAsText(week: OpeningHours['week']): string {
  return days.flatMap((name, index) => {
    const spans = week.filter(({ day }) => day === index + 1).sort((a, b) => a.opens - b.opens)
    return spans.length > 0 ? [`${name} ${spans.map(({ opens, closes }) => `${clockOfMinute(opens)}-${clockOfMinute(closes)}`).join(' ')}`] : []
  }).join('\n')
}

/** What of the lines can be read; the others are left out. */
export function weekOf(text: string): OpeningHours['week'] {
  return text.split('\n').flatMap((line) => {
    const day = days.findIndex(name => line.trim().toLowerCase().startsWith(name.toLowerCase())) + 1
    if (day === 0) return []
    return [...line.matchAll(/(\d{1,2})[:.](\d{2})\s*[-–]\s*(\d{1,2})[:.](\d{2})/g)].map(([, ...parts]) => {
      const [fromHour, from, toHour, to] = parts.map(Number) as [number, number, number, number]
      return { day, opens: fromHour * 60 + from, closes: toHour * 60 + to }
    })
  })
}

export function holidaysAsText(holidays: OpeningHours['holidays']): string {
  return holidays.map(({ date, name }) => `${date} ${name}`).join('\n')
}

export function holidaysOf(text: string): OpeningHours['holidays'] {
  return text.split('\n').flatMap((line) => {
    const [, date, name] = /^\s*(\d{4}-\d{2}-\d{2})\s*(.*)$/.exec(line) ?? []
    return date === undefined ? [] : [{ date, name: name!.trim() }]
  })
}

export function greetingsAsText(greetings: readonly Greeting[]): string {
  // Words that look like a time or a language themselves are told from one by the time that stands before them.
  const looksOtherwise = (text: string) => /^(\d{1,2}[:.]\d{2}\s|\p{L}[\p{L} ]*:\s)/u.test(text)
  return greetings.map(({ language, from, text }) => {
    const time = from > 0 || looksOtherwise(text) ? `${clockOfMinute(from)} ` : ''
    return `${language && `${language}: `}${time}${text}`
  }).join('\n')
}

export function greetingsOf(text: string): Greeting[] {
  return text.split('\n').flatMap((line) => {
    const [, language = '', hour, minute, words] = /^\s*(?:(\p{L}[\p{L} ]{0,39}):\s+)?(?:(\d{1,2})[:.](\d{2})\s+)?(\S.*?)\s*$/u.exec(line) ?? []
    const from = Number(hour ?? 0) * 60 + Number(minute ?? 0)
    return words === undefined || Number(hour ?? 0) > 23 || Number(minute ?? 0) > 59 ? [] : [{ language: language.trim(), from, text: words }]
  })
}
