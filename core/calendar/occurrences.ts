import ICAL from 'ical.js'
import { RRule } from 'rrule'
import { plainText } from '../calls/text'
import { instantOf, isZone } from './zones'

/**
 * When something takes place, read from iCalendar (RFC 5545). Times are milliseconds since 1970 (UTC).
 * ical.js reads the text; rrule repeats what repeats, by the clock of its place, so that nine o'clock stays nine o'clock when clocks change.
 */

export interface Occurrence {
  from: number
  to: number
  /** Whole days, by the clock of whoever the calendar is of. */
  allDay: boolean
  place: string
  /** What it is called, where that is kept. */
  title: string
  /** 1 first, 9 last (RFC 5545, 3.8.1.9); 0: not said. */
  priority: number
}

/** What was read, and what could not be: for whoever looks after the calendar. */
export interface Reading {
  occurrences: Occurrence[]
  problems: string[]
}

/** A text that is no calendar. The message is a sentence. */
export class NoCalendar extends Error {}

interface Moment {
  at: number
  /** The clock on the wall there, as if it were UTC. */
  local: number
  /** How the clock there is turned into an instant. */
  instant: (local: number) => number
  clock: string
  isDate: boolean
}

const day = 24 * 60 * 60_000
const mostOccurrences = 5_000
const mostProblems = 10
const longestPlace = 120
const tooOften = new Set<number>([RRule.HOURLY, RRule.MINUTELY, RRule.SECONDLY])

/** Of what takes place, these alone are kept: when, and where; never what it is called, what it says, or who else comes. */
const kept = new Set([
  'uid', 'dtstart', 'dtend', 'duration', 'rrule', 'rdate', 'exdate', 'recurrence-id', 'location', 'status', 'transp', 'freebusy', 'priority',
])

/** Components that are read: events, times that are taken, and what their zones are. */
const readParts = ['vevent', 'vfreebusy', 'vtimezone']

function parse(text: string, problems: Set<string>): ICAL.Component[] {
  const parsed = parsedOrNull(text) ?? parsedOrNull(withoutBroken(text, problems))
  const calendars = parsed?.map(one => new ICAL.Component(one)).filter(({ name }) => name === 'vcalendar') ?? []
  if (calendars.length === 0) throw new NoCalendar('This is not an iCalendar file: it must begin with BEGIN:VCALENDAR and end with END:VCALENDAR.')
  return calendars
}

type Jcal = [string, unknown[], unknown[]]

function parsedOrNull(text: string): Jcal[] | null {
  try {
    const read = ICAL.parse(text) as Jcal | Jcal[]
    return (Array.isArray(read[0]) ? read : [read]) as Jcal[]
  }
  catch {
    return null
  }
}

/** One event that can't be read does not take the others with it. */
function withoutBroken(text: string, problems: Set<string>): string {
  return text.replace(/^BEGIN:VEVENT\r?\n[^]*?^END:VEVENT\r?\n/gim, (event) => {
    if (parsedOrNull(`BEGIN:VCALENDAR\r\n${event}END:VCALENDAR\r\n`)) return event
    problems.add('An event that can\'t be read was left out.')
    return ''
  })
}

/**
 * A calendar with nothing in it but times and places, as text.
 * @param titles also what each event is called: for rosters, which say who is on duty
 * @throws NoCalendar
 */
export function reduceCalendar(text: string, titles: boolean): { content: string, problems: string[] } {
  const problems = new Set<string>()
  const reduced = new ICAL.Component(['vcalendar', [], []])
  reduced.addPropertyWithValue('version', '2.0')
  reduced.addPropertyWithValue('prodid', '-//Estafette//times and places//EN')
  for (const [index, calendar] of parse(text, problems).entries()) {
    const names = new Map<string, string>()
    for (const part of readParts.flatMap(name => [...calendar.getAllSubcomponents(name)])) {
      if (part.name !== 'vtimezone') keepTimes(part, titles)
      // A UID can name somebody: it only has to tell one series from another.
      const uid = part.getFirstPropertyValue('uid')
      if (typeof uid === 'string') part.updatePropertyWithValue('uid', names.get(uid) ?? nameIn(names, uid, `${index}-${names.size}`))
      reduced.addSubcomponent(part)
    }
  }
  return { content: reduced.toString(), problems: [...problems] }
}

function nameIn(names: Map<string, string>, uid: string, name: string): string {
  names.set(uid, name)
  return name
}

function keepTimes(part: ICAL.Component, titles: boolean): void {
  for (const property of [...part.getAllProperties()]) {
    if (!kept.has(property.name) && !(titles && property.name === 'summary')) part.removeProperty(property)
    else keepParameters(property)
  }
  for (const inner of [...part.getAllSubcomponents()]) part.removeSubcomponent(inner)
}

/** A place can carry its description in a parameter (ALTREP): only what a time needs stays. */
function keepParameters(property: ICAL.Property): void {
  const parameters = (property.toJSON() as [string, Record<string, unknown>])[1]
  for (const name of Object.keys(parameters)) if (!['tzid', 'range', 'fbtype'].includes(name)) property.removeParameter(name)
}

/**
 * Everything that takes place within a window, in the order in which it begins. What is called off, or does not take anybody's time, is left out.
 * @param zone of the IANA database: for whole days, and for times that name no zone
 * @throws NoCalendar
 */
export function occurrencesOf(text: string, window: { from: number, to: number }, zone: string): Reading {
  const problems = new Set<string>()
  const found: Occurrence[] = []
  for (const calendar of parse(text, problems)) {
    const clocks = new Clocks(calendar, zone, problems)
    const series = new Map<string, ICAL.Component[]>()
    for (const [index, event] of calendar.getAllSubcomponents('vevent').entries()) {
      const uid = String(event.getFirstPropertyValue('uid') ?? `without ${index}`)
      series.set(uid, [...series.get(uid) ?? [], event])
    }
    for (const events of series.values()) {
      try {
        found.push(...seriesWithin(events, window, clocks))
      }
      catch (error) {
        problems.add(`An event was left out: ${(error as Error).message.slice(0, 160)}`)
      }
    }
    for (const part of calendar.getAllSubcomponents('vfreebusy')) found.push(...busyWithin(part, window, clocks))
  }
  found.sort((a, b) => a.from - b.from || a.to - b.to)
  if (found.length > mostOccurrences) problems.add(`More than ${mostOccurrences} events in these weeks: the later ones were left out.`)
  return { occurrences: found.slice(0, mostOccurrences), problems: [...problems].slice(0, mostProblems) }
}

/** The zones that a calendar names: those of the IANA database, else those that the calendar itself describes. */
class Clocks {
  private readonly own = new Map<string, ICAL.Timezone>()

  constructor(calendar: ICAL.Component, readonly zone: string, private readonly problems: Set<string>) {
    for (const component of calendar.getAllSubcomponents('vtimezone')) {
      const name = component.getFirstPropertyValue('tzid')
      const says = [...component.getAllSubcomponents('standard'), ...component.getAllSubcomponents('daylight')]
        .some(part => part.getFirstProperty('dtstart') && part.getFirstPropertyValue('tzoffsetto'))
      if (typeof name === 'string' && says) this.own.set(name, new ICAL.Timezone({ component, tzid: name }))
    }
  }

  read(property: ICAL.Property, value: ICAL.Time): Moment {
    const local = Date.UTC(value.year, value.month - 1, value.day, value.hour, value.minute, value.second)
    if (Number.isNaN(local) || value.year < 1900 || value.year > 9999) throw new Error('it has a date that is none')
    const named = property.getFirstParameter('tzid')
    const [clock, instant] = value.isDate || !(named || isUtc(value)) ? [this.zone, this.here] : this.named(isUtc(value) ? 'UTC' : named)
    return { at: instant(local), local, instant, clock, isDate: value.isDate }
  }

  private readonly here = (local: number) => instantOf(this.zone, local)

  private named(name: string): [string, (local: number) => number] {
    if (name === 'UTC') return [name, local => local]
    const known = [name, name.split('/').slice(-2).join('/')].find(isZone)
    if (known) return [known, local => instantOf(known, local)]
    const own = this.own.get(name)
    if (own) return [name, local => local - own.utcOffset(ICAL.Time.fromJSDate(new Date(local), true)) * 1_000]
    this.problems.add(`Nobody knows the time zone “${name.slice(0, 60)}”: its times were read as those of ${this.zone}.`)
    return [this.zone, this.here]
  }
}

function isUtc(value: ICAL.Time): boolean {
  return value.zone === ICAL.Timezone.utcTimezone
}

/** An event with all its repetitions, and with those of them that were moved. */
function seriesWithin(events: readonly ICAL.Component[], window: { from: number, to: number }, clocks: Clocks): Occurrence[] {
  const moved = events.filter(event => event.getFirstProperty('recurrence-id'))
  const moves = moved.map(event => ({ event, of: momentOf(event, 'recurrence-id', clocks)!, andLater: isForLater(event) })).sort((a, b) => a.of.at - b.of.at)
  const elsewhere = new Set(moves.map(({ of }) => of.at))
  const found: Occurrence[] = []
  for (const event of events) {
    if (moved.includes(event)) continue
    for (const start of startsWithin(event, window, clocks)) {
      if (elsewhere.has(start.at)) continue
      // From one repetition on, another time of the day holds, or another length, or place (RFC 5545, 3.2.13).
      const later = moves.findLast(({ of, andLater }) => andLater && of.at <= start.at)
      if (!later) found.push(...takes(event, start, clocks))
      else if (takesTime(later.event)) {
        const to = momentOf(later.event, 'dtstart', clocks)!
        const local = start.local + to.local - later.of.local
        found.push(...takes(later.event, { ...to, local, at: to.instant(local) }, clocks))
      }
    }
  }
  for (const { event } of moves) found.push(...takes(event, momentOf(event, 'dtstart', clocks)!, clocks))
  return found.filter(({ from, to }) => from < window.to && to > window.from)
}

function isForLater(event: ICAL.Component): boolean {
  return String(event.getFirstProperty('recurrence-id')?.getFirstParameter('range') ?? '').toUpperCase() === 'THISANDFUTURE'
}

function momentOf(event: ICAL.Component, name: string, clocks: Clocks): Moment | null {
  const property = event.getFirstProperty(name)
  const value: unknown = property?.getFirstValue()
  if (!property || !(value instanceof ICAL.Time)) {
    if (name === 'dtstart') throw new Error('it does not say when it begins')
    return null
  }
  return clocks.read(property, value)
}

function takesTime(event: ICAL.Component): boolean {
  const word = (name: string) => String(event.getFirstPropertyValue(name) ?? '').toUpperCase()
  return word('status') !== 'CANCELLED' && word('transp') !== 'TRANSPARENT'
}

/** Every beginning of an event that may reach into the window. */
function startsWithin(event: ICAL.Component, window: { from: number, to: number }, clocks: Clocks): Moment[] {
  if (!takesTime(event)) return []
  const first = momentOf(event, 'dtstart', clocks)!
  const length = Math.max(0, (takes(event, first, clocks)[0]?.to ?? first.at) - first.at)
  const starts = new Map([[first.at, first]])
  for (const property of event.getAllProperties('rrule')) {
    for (const local of repetitions(String(property.getFirstValue()), first, window.from - length - day, window.to + day)) {
      const at = first.instant(local)
      starts.set(at, { ...first, local, at })
    }
  }
  for (const moment of momentsOf(event, 'rdate', clocks)) starts.set(moment.at, moment)
  for (const { at } of momentsOf(event, 'exdate', clocks)) starts.delete(at)
  return [...starts.values()]
}

/** By the clock of the place, each as if it were UTC. */
function repetitions(rule: string, first: Moment, from: number, to: number): number[] {
  const { freq, until, ...others } = RRule.parseString(rule)
  if (freq === undefined) throw new Error('it repeats by a rule that can\'t be read')
  if (tooOften.has(freq)) throw new Error('it repeats more often than daily')
  if (others.interval !== undefined && !(others.interval >= 1)) throw new Error('it repeats without an interval')
  const starts = new RRule({ ...others, freq, dtstart: new Date(first.local) })
    .between(new Date(from), new Date(to), true, (_, found) => found < mostOccurrences)
    .map(start => start.getTime())
  if (!until) return starts
  // Until when is said in UTC, or as the clock there shows it (RFC 5545, 3.3.10); a date means the whole day.
  const said = /UNTIL=([^;]*)/i.exec(rule)?.[1] ?? ''
  const last = until.getTime() + (said.includes('T') ? 0 : day - 1)
  return starts.filter(local => (said.endsWith('Z') ? first.instant(local) : local) <= last)
}

function momentsOf(event: ICAL.Component, name: 'rdate' | 'exdate', clocks: Clocks): Moment[] {
  return event.getAllProperties(name).flatMap(property => (property.getValues() as unknown[]).flatMap((value) => {
    const time = value instanceof ICAL.Period ? value.start : value
    return time instanceof ICAL.Time ? [clocks.read(property, time)] : []
  }))
}

/** What an event takes when it begins then; nothing when it does not last. */
function takes(event: ICAL.Component, start: Moment, clocks: Clocks): Occurrence[] {
  if (!takesTime(event)) return []
  const to = endOf(event, start, clocks)
  if (to <= start.at) return []
  const text = (name: string) => plainText(String(event.getFirstPropertyValue(name) ?? ''), longestPlace)
  const priority = Number(event.getFirstPropertyValue('priority') ?? 0)
  return [{
    from: start.at, to, allDay: start.isDate, place: text('location'), title: text('summary'),
    priority: Number.isInteger(priority) && priority > 0 && priority < 10 ? priority : 0,
  }]
}

/** An end in the same zone is so far from the beginning by the clock there; whole days last until midnight. */
function endOf(event: ICAL.Component, start: Moment, clocks: Clocks): number {
  const first = momentOf(event, 'dtstart', clocks)!
  const end = momentOf(event, 'dtend', clocks)
  if (end) return end.clock === first.clock ? start.instant(start.local + end.local - first.local) : start.at + end.at - first.at
  const duration: unknown = event.getFirstPropertyValue('duration')
  if (duration instanceof ICAL.Duration) {
    const days = duration.weeks * 7 + duration.days
    const rest = (duration.hours * 3_600 + duration.minutes * 60 + duration.seconds) * 1_000
    return duration.isNegative ? start.at : start.instant(start.local + days * day) + rest
  }
  return start.isDate ? start.instant(start.local + day) : start.at
}

/** Times that somebody else's calendar calls taken (RFC 5545, 3.6.4). */
function busyWithin(part: ICAL.Component, window: { from: number, to: number }, clocks: Clocks): Occurrence[] {
  return part.getAllProperties('freebusy').flatMap((property) => {
    if (String(property.getFirstParameter('fbtype') ?? 'BUSY').toUpperCase() === 'FREE') return []
    return (property.getValues() as unknown[]).flatMap((value) => {
      if (!(value instanceof ICAL.Period)) return []
      const [from, to] = [clocks.read(property, value.start).at, clocks.read(property, value.getEnd()).at]
      return from < window.to && to > window.from && to > from ? [{ from, to, allDay: false, place: '', title: '', priority: 0 }] : []
    })
  })
}
