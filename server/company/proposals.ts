import Holidays from 'date-holidays'
import { emergencyNumbers } from '~~/core/numbers/emergency'
import type { Proposals } from '~~/shared/first-hour'

const years = 3
const names = new Intl.DisplayNames('en', { type: 'language' })

/**
 * What is usual in a country, by the public holidays and clocks of the package date-holidays. A country that it does not know has neither.
 * @param year the first of three
 */
export function proposalsFor(country: string, region: string, year: number): Proposals {
  const whole = new Holidays(country)
  const there = region === '' ? whole : new Holidays(country, region)
  const regions = Object.entries(whole.getStates(country, 'en') as Record<string, string> | undefined ?? {}).map(([code, name]) => ({ code, name }))
  const zones = whole.getTimezones() ?? []
  // Of a country that it does not know it says a few languages all the same.
  const languages = zones.length > 0 ? whole.getLanguages() ?? [] : []
  const days = Array.from({ length: years }, (_, index) => year + index).flatMap(of => there.getHolidays(of, 'en') || [])
  const holidays = days.filter(({ type }) => type === 'public').map(({ date, name }) => ({ date: date.slice(0, 10), name }))
  return {
    zones,
    languages: [...new Set(languages.map(code => names.of(code) ?? code))],
    emergency: [...emergencyNumbers(country)],
    regions: regions.sort((a, b) => a.name.localeCompare(b.name)),
    holidays: [...new Map(holidays.map(day => [day.date, day])).values()].sort((a, b) => a.date < b.date ? -1 : 1),
  }
}
