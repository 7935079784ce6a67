import type { OpeningHours } from '~~/core/company/company'

/** A week and its holidays as lines that people write. */

const days = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const
const clock = (minutes: number) => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`

export function weekAsText(week: OpeningHours['week']): string {
  return days.flatMap((name, index) => {
    const spans = week.filter(({ day }) => day === index + 1).sort((a, b) => a.opens - b.opens)
    return spans.length > 0 ? [`${name} ${spans.map(({ opens, closes }) => `${clock(opens)}-${clock(closes)}`).join(' ')}`] : []
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
