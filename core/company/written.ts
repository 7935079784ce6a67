import { phrase, type Phrase } from '../../words/phrase'
import { clockOfMinute } from '../calendar/zones'
import { fold } from '../directory/folding'
import type { Greeting, OpeningHours } from './company'

/**
 * A week, its holidays, and greetings by time of day as people write them: understood generously, and what can't be understood is told with its line.
 * Nothing is left out in silence.
 */

export interface Read<T> {
  is: T
  /** What can't be understood, in the order of the lines: "Line 2, …". */
  faults: Phrase[]
}

type Span = OpeningHours['week'][number]
type Holiday = OpeningHours['holidays'][number]

/** The languages whose names of days and months are understood. */
const languages = ['en', 'de', 'fr', 'nl', 'es', 'it', 'da', 'sv', 'nb', 'pl'] as const
/** In the order in which they are shown. */
export const weekdays = [
  phrase('calendar.monday'), phrase('calendar.tuesday'), phrase('calendar.wednesday'), phrase('calendar.thursday'), phrase('calendar.friday'),
  phrase('calendar.saturday'), phrase('calendar.sunday'),
] as const

/** Every name of a day or month, whole and in short, with its number from 1: a Monday, a January. */
function namesOf(options: Intl.DateTimeFormatOptions[], at: (index: number) => number, count: number): Map<string, number> {
  const names = new Map<string, number>()
  for (const language of languages) {
    for (const option of options) {
      const format = new Intl.DateTimeFormat(language, { ...option, timeZone: 'UTC' })
      for (let index = 0; index < count; index++) {
        const part = format.formatToParts(at(index)).find(({ type }) => type === 'weekday' || type === 'month')!.value
        const name = fold(part).replace(/\.$/, '')
        if (/[a-z]{2,}/.test(name) && !names.has(name)) names.set(name, index + 1)
      }
    }
  }
  return names
}

const aMonday = Date.UTC(2024, 0, 1)
const dayLong = 24 * 60 * 60_000
const english = new Intl.DateTimeFormat('en', { weekday: 'long', timeZone: 'UTC' })
const englishDays = Array.from({ length: 7 }, (_, index) => fold(english.format(aMonday + index * dayLong)))
let days: Map<string, number> | null = null
let months: Map<string, number> | null = null
const knownDays = () => days ??= namesOf([{ weekday: 'long' }, { weekday: 'short' }], index => aMonday + index * dayLong, 7)
const monthNames = () => months ??= namesOf(
  [{ month: 'long', day: 'numeric' }, { month: 'short', day: 'numeric' }, { month: 'long' }], index => Date.UTC(2024, index, 15), 12,
)

/** A day as somebody writes it, from 1 for Monday: its name, or two letters or more of it; 0 for none. */
function dayNumber(word: string): number {
  const text = fold(word).replace(/[^a-z]/g, '')
  const known = knownDays().get(text)
  if (known !== undefined || text.length < 2) return known ?? 0
  // "Thurs", "Mond": the beginning of an English name.
  const begun = englishDays.findIndex(name => name.startsWith(text)) + 1
  return begun > 0 || !text.endsWith('s') ? begun : dayNumber(text.slice(0, -1))
}

const closedWords = /^(closed|geschlossen|zu|ferme|fermee|gesloten|dicht|cerrado|chiuso|lukket|stangt|zamkniete|none|no|-|–|—)$/
const allDayWords = /^(24\s?h(ours)?|0?0[:.]00\s*[-–—]\s*24[:.]00|all day|always|open|ganztags|24\/24)$/

/** Minutes since midnight of one time, or null. "12" at noon, "5pm", "8.30", "08h30", "1730", "8 Uhr". */
function minuteOf(text: string, evening: string | undefined): number | null {
  const [, hour, minute = '0', half] = /^(\d{1,2})(?:(?:[:.h]\s?|(?<=\d\d))(\d{2}))?\s*h?\s*(am|pm|a\.m\.|p\.m\.|uhr|o'?clock)?$/i.exec(text.trim()) ?? []
  if (hour === undefined) return null
  const mark = (half ?? evening)?.[0]?.toLowerCase()
  let hours = Number(hour)
  if ((mark === 'a' || mark === 'p') && hours >= 1 && hours <= 12) hours = hours % 12 + (mark === 'p' ? 12 : 0)
  const at = hours * 60 + Number(minute)
  return Number(minute) > 59 || at > 24 * 60 ? null : at
}

/**
 * The times of one day, as somebody writes them: "8:00-12:00 13:00-18:00", "8-12, 13-18", "9am – 5pm", "from 8 to 18", "closed", "all day".
 * @returns minutes since midnight; `fault`: what can't be read in them
 */
export function readTimes(text: string): { spans: { opens: number, closes: number }[], fault: Phrase | null } {
  const said = fold(text).trim()
  if (said === '' || closedWords.test(said)) return { spans: [], fault: null }
  if (allDayWords.test(said)) return { spans: [{ opens: 0, closes: 24 * 60 }], fault: null }
  const spans: { opens: number, closes: number }[] = []
  const time = String.raw`\d{1,2}(?:[:.h]\s?\d{2}|\d{2})?\s*(?:h(?![a-z])|am|pm|a\.m\.|p\.m\.|uhr|o'?clock)?`
  const pattern = new RegExp(String.raw`(?:from|von|de|van)?\s*(${time})\s*(?:-|–|—|to|till|until|bis|a|tot)\s*(${time})`, 'gi')
  const rest = said.replace(pattern, (_whole, from: string, to: string) => {
    // "9-5pm" is from nine in the morning; "1-5pm" from one in the afternoon.
    const closes = minuteOf(to, undefined)
    let opens = minuteOf(from, undefined)
    const half = /(am|pm|a\.m\.|p\.m\.)\s*$/i.exec(to)?.[1]
    if (half && !/[ap]\.?m/i.test(from)) {
      const same = minuteOf(from, half)
      if (same !== null && closes !== null && same < closes) opens = same
    }
    if (opens === null || closes === null) return '?'
    spans.push({ opens, closes: closes === 0 ? 24 * 60 : closes })
    return ' '
  }).replace(/\b(and|und|et|en|y|e|og|och|i)\b/g, ' ').replace(/[\s,;/&+]+/g, '')
  if (rest !== '' || spans.length === 0)
    return { spans: [], fault: phrase('company.timesUnreadable', { text: text.trim() }) }
  spans.sort((a, b) => a.opens - b.opens)
  const backwards = spans.find(({ opens, closes }) => closes <= opens)
  if (backwards) {
    const [opens, closes] = [clockOfMinute(backwards.opens), clockOfMinute(backwards.closes)]
    return { spans, fault: phrase('company.closesBeforeItOpens', { closes, opens }) }
  }
  const twice = spans.find(({ opens }, index) => index > 0 && opens < spans[index - 1]!.closes)
  if (twice) return { spans, fault: phrase('company.isOpenThenAlready', { opens: clockOfMinute(twice.opens) }) }
  return { spans, fault: null }
}

/** The times of a day as they are shown: "8:00-12:00 13:00-18:00"; empty: closed. */
export function timesAsText(spans: readonly { opens: number, closes: number }[]): string {
  return [...spans].sort((a, b) => a.opens - b.opens).map(({ opens, closes }) => `${clockOfMinute(opens)}-${clockOfMinute(closes)}`).join(' ')
}

/**
 * A whole week, a line (or what stands between slashes) for one day, several, or a range of them: "Mon 8:00-12:00 13:00-18:00 / Tue-Thu 8-18 / friday 8-16".
 * Days that nobody names are closed.
 */
export function readWeek(text: string): Read<Span[]> {
  const faults: Phrase[] = []
  const week = new Map<number, { opens: number, closes: number }[]>()
  const parts = text.split('\n').flatMap((line, index) => line.split(/\s\/\s|;/).map(part => ({ line: index + 1, part: part.trim() })))
  for (const { line, part } of parts) {
    if (part === '') continue
    const say = (what: Phrase) => faults.push(phrase('company.wrongLine', { line, part, what }))
    const [, named = '', times = ''] = /^([^\d]*?)\s*:?\s*((?:\d|closed|geschlossen|ferm|geslo|all day|open|from |von |always|24).*)?$/i.exec(part) ?? []
    const on = daysIn(named)
    if (on === null) {
      say(phrase('company.beginsWithNoDay'))
      continue
    }
    const read = readTimes(times)
    if (times === '' || read.fault !== null) {
      say(times === '' ? phrase('company.noTimesBehindTheDay') : read.fault!)
      continue
    }
    const again = on.find(day => week.has(day))
    if (again !== undefined) say(phrase('company.dayStandsThereAlready', { day: weekdays[again - 1]! }))
    else for (const day of on) week.set(day, read.spans)
  }
  const is = [...week].flatMap(([day, spans]) => spans.map(span => ({ day, ...span }))).sort((a, b) => a.day - b.day || a.opens - b.opens)
  return { is, faults }
}

/** "Mon", "Tue-Thu", "Mo bis Fr", "Sat, Sun", "daily", "weekdays": the days that are meant; null when a word is none. */
function daysIn(text: string): number[] | null {
  const said = fold(text).replace(/[.:]/g, ' ').trim()
  if (/^(daily|every day|taglich|tous les jours|dagelijks|mon ?- ?sun)$/.test(said)) return [1, 2, 3, 4, 5, 6, 7]
  if (/^(weekdays|working days|werktags|en semaine)$/.test(said)) return [1, 2, 3, 4, 5]
  if (/^weekends?$/.test(said)) return [6, 7]
  const all = new Set<number>()
  for (const part of said.split(/,|&|\band\b|\bund\b|\bet\b|\ben\b|\+/).map(one => one.trim())) {
    const ends = part.split(/\s*(?:-|–|—|\bto\b|\btill\b|\bbis\b|\ba\b|\bau\b|\btot\b|\bthrough\b)\s*|\s+/).filter(Boolean).map(dayNumber)
    const [from, to = from] = ends
    if (from === undefined || ends.includes(0) || ends.length > 2) return null
    for (let day = from; ; day = day % 7 + 1) {
      all.add(day)
      if (day === to) break
    }
  }
  return [...all]
}

export function holidaysAsText(holidays: readonly Holiday[]): string {
  return holidays.map(({ date, name }) => `${date} ${name}`.trim()).join('\n')
}

/**
 * Days on which it is closed, one to a line: "2026-12-25 Christmas Day", "26.12.2026", "1 May 2027 Labour Day", "May 1, 2027".
 * @param monthFirst 12/26/2026 is a day of December: as in the United States
 */
export function readHolidays(text: string, monthFirst = false): Read<Holiday[]> {
  const faults: Phrase[] = []
  const found = new Map<string, Holiday>()
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue
    const say = (what: Phrase) => faults.push(phrase('company.wrongLine', { line: index + 1, part: line.trim(), what }))
    const read = dateIn(line.trim(), monthFirst)
    if (read === null) say(phrase('company.beginsWithNoDate'))
    else if (found.has(read.date)) say(phrase('company.thatDayStandsThereAlready'))
    else found.set(read.date, read)
  }
  return { is: [...found.values()].sort((a, b) => a.date < b.date ? -1 : 1), faults }
}

function dateIn(line: string, monthFirst: boolean): Holiday | null {
  const made = (year: string, month: number, day: number, name: string): Holiday | null => {
    const date = new Date(Date.UTC(Number(year), month - 1, day))
    if (month < 1 || month > 12 || date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day) return null
    return { date: date.toISOString().slice(0, 10), name: name.replace(/^[\s,:–-]+/, '').trim() }
  }
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?!\d)(.*)$/.exec(line)
  if (iso) return made(iso[1]!, Number(iso[2]), Number(iso[3]), iso[4]!)
  const figures = /^(\d{1,2})\s?[./-]\s?(\d{1,2})\s?[./-]\s?(\d{4})(?!\d)(.*)$/.exec(line)
  if (figures) {
    const [one, two] = [Number(figures[1]), Number(figures[2])]
    // With dots the day comes first everywhere.
    const first = monthFirst && !figures[0].includes('.')
    const [day, month] = first ? [two, one] : [one, two]
    return made(figures[3]!, month, day, figures[4]!) ?? made(figures[3]!, day, month, figures[4]!)
  }
  const words = /^(?:(\d{1,2})(?:st|nd|rd|th|\.)?\s+(?:(?:of|de)\s+)?(\p{L}+)\.?|(\p{L}+)\.?\s+(\d{1,2})(?:st|nd|rd|th)?),?\s+(?:de\s+)?(\d{4})(?!\d)(.*)$/u
    .exec(line)
  const month = words && monthNames().get(fold(words[2] ?? words[3]!))
  return words && month ? made(words[5]!, month, Number(words[1] ?? words[4]), words[6]!) : null
}

export function greetingsAsText(greetings: readonly Greeting[]): string {
  // Words that look like a time or a language themselves are told from one by the time that stands before them.
  const looksOtherwise = (text: string) => /^(\d{1,2}[:.]\d{2}\s|\p{L}[\p{L} ]*:\s)/u.test(text)
  return greetings.map(({ language, from, text }) => {
    const time = from > 0 || looksOtherwise(text) ? `${clockOfMinute(from)} ` : ''
    return `${language && `${language}: `}${time}${text}`
  }).join('\n')
}

/** Greetings, one to a line, with the language of the caller and the time from which they are said: "Dutch: 18:00 Goedenavond, Merrowby". */
export function readGreetings(text: string): Read<Greeting[]> {
  const faults: Phrase[] = []
  const is = text.split('\n').flatMap((line, index): Greeting[] => {
    if (line.trim() === '') return []
    const [, language = '', hour, minute, words] = /^\s*(?:(\p{L}[\p{L} ]{0,39}):\s+)?(?:(\d{1,2})[:.](\d{2})(?:\s+|$))?(.*?)\s*$/u.exec(line) ?? []
    const from = Number(hour ?? 0) * 60 + Number(minute ?? 0)
    const say = (what: Phrase) => void faults.push(phrase('company.wrongLine', { line: index + 1, part: line.trim(), what }))
    if (Number(hour ?? 0) > 23 || Number(minute ?? 0) > 59) say(phrase('company.noTimeOfDay', { time: `${hour}:${minute}` }))
    else if (!words) say(phrase('company.nothingToBeSaid'))
    else return [{ language: language.trim(), from, text: words }]
    return []
  })
  return { is, faults }
}

/** Several texts, one to a line. */
export function readTexts(text: string): Read<string[]> {
  return { is: text.split('\n').map(line => line.trim()).filter(Boolean), faults: [] }
}
