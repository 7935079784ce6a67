import ICAL from 'ical.js'
import { RRule } from 'rrule'
import { phrase, type Phrase } from '../../words/phrase'
import { Unreadable } from '../schema/faults'
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
  /** The calendar with nothing in it but times and places, without what was over before the window, as text. */
  content: string
  /** Everything that takes place within the window, in the order in which it begins. What is called off, or does not take anybody's time, is left out. */
  occurrences: Occurrence[]
  problems: Phrase[]
}

/** A text that is no calendar. */
export class NoCalendar extends Unreadable {}

/** What could not be read so far, each once: an event, or how it repeats. */
class Problems {
  private readonly known = new Map<string, Phrase>()

  add(problem: Phrase): void {
    this.known.set(JSON.stringify(problem), problem)
  }

  get first(): Phrase[] {
    return [...this.known.values()].slice(0, mostProblems)
  }
}

interface Moment {
  at: number
  /** The clock on the wall there, as if it were UTC. */
  local: number
  /** How the clock there is turned into an instant. */
  instant: (local: number) => number
  clock: string
  isDate: boolean
  /** Where it says so itself (RDATE as a period). */
  ends?: number
}

const day = 24 * 60 * 60_000
const mostOccurrences = 5_000
const mostProblems = 10
const longestPlace = 120
const tooOften = new Set<number>([RRule.HOURLY, RRule.MINUTELY, RRule.SECONDLY])

/** Of what takes place, these alone are kept: when, and where; never what it is called, what it says, or who else comes. */
const kept = new Set([
  'uid', 'dtstart', 'dtend', 'duration', 'rrule', 'rdate', 'exdate', 'recurrence-id', 'location', 'status', 'transp', 'freebusy', 'priority', 'sequence',
])

/** Components that are read: events, times that are taken, and what their zones are. */
const readParts = ['vevent', 'vfreebusy', 'vtimezone']

function parse(given: string, problems: Problems): Jcal[] {
  const text = given.replace(/^\uFEFF/, '')
  const parsed = parsedOrNull(text) ?? parsedOrNull(withoutBroken(text, problems))
  const calendars = parsed?.filter(([name]) => name === 'vcalendar') ?? []
  if (calendars.length === 0) throw new NoCalendar(phrase('calendar.noCalendar'))
  return calendars
}

/** A component as ical.js reads it (RFC 7265): what is not needed is left out of it before anything is dear. */
type Jcal = [name: string, properties: Jproperty[], parts: Jcal[]]
type Jproperty = [name: string, parameters: Record<string, unknown>, type: string, ...values: unknown[]]
const valueOf = ([, properties]: Jcal, wanted: string): unknown => properties.find(([name]) => name === wanted)?.[3]

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
function withoutBroken(text: string, problems: Problems): string {
  return text.replace(/^BEGIN:VEVENT\r?\n[^]*?^END:VEVENT\r?\n/gim, (event) => {
    if (parsedOrNull(`BEGIN:VCALENDAR\r\n${event}END:VCALENDAR\r\n`)) return event
    problems.add(phrase('calendar.eventUnreadable'))
    return ''
  })
}

interface Window { from: number, to: number }

/**
 * @param titles also what each event is called: for rosters, which say who is on duty
 * @param zone of the IANA database: for whole days, and for times that name no zone
 * @throws NoCalendar
 */
export function readCalendar(text: string, { titles, window, zone }: { titles: boolean, window: Window, zone: string }): Reading {
  const problems = new Problems()
  const calendars = parse(text, problems).map((calendar, index) => reduced(calendar, index, titles))
  const found = calendars.flatMap(parts => occurrencesIn(parts, window, zone, problems)).sort((a, b) => a.from - b.from || a.to - b.to)
  if (found.length > mostOccurrences) problems.add(phrase('calendar.tooManyEvents', { most: mostOccurrences }))
  const whole: Jcal = [
    'vcalendar', [['version', {}, 'text', '2.0'], ['prodid', {}, 'text', '-//Estafette//times-and-places//EN']],
    calendars.flat().filter(part => part[0] !== 'vevent' || !isOver(part, window)),
  ]
  return { content: ICAL.stringify(whole), occurrences: found.slice(0, mostOccurrences), problems: problems.first }
}

/** The parts of a calendar that are read, with times and places alone. */
function reduced([, , parts]: Jcal, index: number, titles: boolean): Jcal[] {
  const names = new Map<string, string>()
  // A UID can name somebody: it only has to tell one series from another.
  const nameOf = (uid: string) => names.get(uid) ?? nameIn(names, uid, `${index}-${names.size}`)
  return readParts.flatMap(wanted => parts.filter(([name]) => name === wanted))
    .map((part): Jcal => part[0] === 'vtimezone' ? part : [part[0], part[1].flatMap(property => keptOf(property, titles, nameOf)), []])
}

function nameIn(names: Map<string, string>, uid: string, name: string): string {
  names.set(uid, name)
  return name
}

/** A place can carry its description in a parameter (ALTREP): only what a time needs stays. */
function keptOf([name, parameters, type, ...values]: Jproperty, titles: boolean, nameOf: (uid: string) => string): Jproperty[] {
  if (!kept.has(name) && !(titles && name === 'summary')) return []
  const said = Object.entries(parameters).filter(([parameter]) => ['tzid', 'range', 'fbtype'].includes(parameter))
  return [[name, Object.fromEntries(said), type, ...name === 'uid' ? [nameOf(String(values[0]))] : values]]
}

function occurrencesIn(parts: readonly Jcal[], window: Window, zone: string, problems: Problems): Occurrence[] {
  const those = (wanted: string) => parts.filter(([name]) => name === wanted)
  const clocks = new Clocks(those('vtimezone').map(part => new ICAL.Component(part)), zone, problems)
  const found = those('vfreebusy').flatMap(part => busyWithin(new ICAL.Component(part), window, clocks))
  for (const events of seriesOf(those('vevent')).values()) {
    if (!events.some(event => mayTakePlace(event, window))) continue
    try {
      found.push(...seriesWithin(events.map(event => new ICAL.Component(event)), window, clocks))
    }
    catch (error) {
      problems.add(error instanceof Unreadable ? phrase('calendar.eventLeftOut', { why: error.what }) : phrase('calendar.eventUnreadable'))
    }
  }
  return found
}

/** Events by their UID. Of one that stands there more than once, the one that was changed last (the higher SEQUENCE, RFC 5545, 3.8.7.4). */
function seriesOf(events: readonly Jcal[]): Map<string, Jcal[]> {
  const latest = new Map<string, { uid: string, event: Jcal, sequence: number }>()
  for (const [index, event] of events.entries()) {
    const uid = String(valueOf(event, 'uid') ?? `without ${index}`)
    const sequence = Number(valueOf(event, 'sequence') ?? 0) || 0
    const of = JSON.stringify([uid, valueOf(event, 'recurrence-id') ?? null])
    if (sequence >= (latest.get(of)?.sequence ?? -Infinity)) latest.set(of, { uid, event, sequence })
  }
  const series = new Map<string, Jcal[]>()
  for (const { uid, event } of latest.values()) {
    const others = series.get(uid)
    if (others) others.push(event)
    else series.set(uid, [event])
  }
  return series
}

/** The days on which something begins and ends, read without its clock; null for what repeats, or says so otherwise. */
function daysOf(event: Jcal): { begins: number, ends: number } | null {
  if (event[1].some(([name]) => name === 'rrule' || name === 'rdate' || name === 'recurrence-id' || name === 'duration')) return null
  const dayOf = (name: string) => Date.parse(`${String(valueOf(event, name)).slice(0, 10)}T00:00Z`)
  const begins = dayOf('dtstart')
  const ends = valueOf(event, 'dtend') === undefined ? begins : dayOf('dtend')
  // What can't be read so is read with care, and said.
  return Number.isNaN(begins) || Number.isNaN(ends) ? null : { begins, ends }
}

/** False for what can't be in a window whatever its clock is: most of an old calendar is not looked at any closer. */
function mayTakePlace(event: Jcal, window: Window): boolean {
  const days = daysOf(event)
  return days === null || (days.begins < window.to + 2 * day && !isOver(event, window))
}

function isOver(event: Jcal, { from }: Window): boolean {
  const days = daysOf(event)
  return days !== null && Math.max(days.begins, days.ends) < from - 3 * day
}

/** The zones that a calendar names: those that it describes itself, else those of the IANA database. */
class Clocks {
  private readonly own = new Map<string, ICAL.Timezone>()

  constructor(zones: readonly ICAL.Component[], readonly zone: string, readonly problems: Problems) {
    for (const component of zones) {
      const name = component.getFirstPropertyValue('tzid')
      const says = [...component.getAllSubcomponents('standard'), ...component.getAllSubcomponents('daylight')]
        .some(part => part.getFirstProperty('dtstart') && part.getFirstPropertyValue('tzoffsetto'))
      if (typeof name === 'string' && says) this.own.set(name, new ICAL.Timezone({ component, tzid: name }))
    }
  }

  read(property: ICAL.Property, value: ICAL.Time): Moment {
    const local = Date.UTC(value.year, value.month - 1, value.day, value.hour, value.minute, value.second)
    if (Number.isNaN(local) || value.year < 1900 || value.year > 9999) throw new Unreadable(phrase('calendar.noDate'))
    const named = property.getFirstParameter('tzid')
    const [clock, instant] = value.isDate || !(named || isUtc(value)) ? [this.zone, this.here] : this.named(isUtc(value) ? 'UTC' : named)
    return { at: instant(local), local, instant, clock, isDate: value.isDate }
  }

  private readonly here = (local: number) => instantOf(this.zone, local)

  private named(name: string): [string, (local: number) => number] {
    if (name === 'UTC') return [name, local => local]
    const own = this.own.get(name)
    if (own) return [name, local => ownInstant(own, local)]
    const known = [name, name.split('/').slice(-2).join('/')].find(isZone)
    if (known) return [known, local => instantOf(known, local)]
    this.problems.add(phrase('calendar.unknownZone', { name: name.slice(0, 60), zone: this.zone }))
    return [this.zone, this.here]
  }
}

/** The first, when the clock of a zone that a calendar describes shows a time twice; ical.js takes the second. */
function ownInstant(zone: ICAL.Timezone, local: number): number {
  const offsetAt = (shown: number) => zone.utcOffset(ICAL.Time.fromJSDate(new Date(shown), true)) * 1_000
  const [before, now] = [offsetAt(local - longestShift), offsetAt(local)]
  const isTwice = before > now && offsetAt(local - (before - now)) === before
  return local - (isTwice ? before : now)
}

/** No clock is put back by more. */
const longestShift = 3 * 60 * 60_000

function isUtc(value: ICAL.Time): boolean {
  return value.zone === ICAL.Timezone.utcTimezone
}

/** An event with all its repetitions, and with those of them that were moved. */
function seriesWithin(events: readonly ICAL.Component[], window: Window, clocks: Clocks): Occurrence[] {
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
    if (name === 'dtstart') throw new Unreadable(phrase('calendar.noBeginning'))
    return null
  }
  return clocks.read(property, value)
}

function takesTime(event: ICAL.Component): boolean {
  const word = (name: string) => String(event.getFirstPropertyValue(name) ?? '').toUpperCase()
  return word('status') !== 'CANCELLED' && word('transp') !== 'TRANSPARENT'
}

/** Every beginning of an event that may reach into the window. */
function startsWithin(event: ICAL.Component, window: Window, clocks: Clocks): Moment[] {
  if (!takesTime(event)) return []
  const first = momentOf(event, 'dtstart', clocks)!
  const length = Math.max(0, (takes(event, first, clocks)[0]?.to ?? first.at) - first.at)
  const starts = new Map([[first.at, first]])
  for (const property of event.getAllProperties('rrule')) {
    for (const local of repetitions(String(property.getFirstValue()), first, { from: window.from - length - day, to: window.to + day }, clocks)) {
      const at = first.instant(local)
      starts.set(at, { ...first, local, at })
    }
  }
  for (const moment of momentsOf(event, 'rdate', clocks)) starts.set(moment.at, moment)
  for (const { at } of momentsOf(event, 'exdate', clocks)) starts.delete(at)
  return [...starts.values()]
}

/** By the clock of the place, each as if it were UTC. */
function repetitions(rule: string, first: Moment, { from, to }: Window, clocks: Clocks): number[] {
  const { freq, until, ...others } = RRule.parseString(rule)
  if (freq === undefined) throw new Unreadable(phrase('calendar.ruleUnreadable'))
  if (tooOften.has(freq)) throw new Unreadable(phrase('calendar.tooOften'))
  if (others.interval !== undefined && !(others.interval >= 1)) throw new Unreadable(phrase('calendar.noInterval'))
  const starts = new RRule({ ...others, freq, dtstart: new Date(first.local) })
    .between(new Date(from), new Date(to), true, (_, found) => found < mostOccurrences)
    .map(start => start.getTime())
  if (starts.length >= mostOccurrences) clocks.problems.add(phrase('calendar.repeatsTooOften', { most: mostOccurrences }))
  if (!until) return starts
  // Until when is said in UTC, or as the clock there shows it (RFC 5545, 3.3.10); a date means the whole day.
  const said = /UNTIL=([^;]*)/i.exec(rule)?.[1] ?? ''
  const last = until.getTime() + (said.includes('T') ? 0 : day - 1)
  return starts.filter(local => (said.endsWith('Z') ? first.instant(local) : local) <= last)
}

function momentsOf(event: ICAL.Component, name: 'rdate' | 'exdate', clocks: Clocks): Moment[] {
  return event.getAllProperties(name).flatMap(property => (property.getValues() as unknown[]).flatMap((value) => {
    if (value instanceof ICAL.Period) return [{ ...clocks.read(property, value.start), ends: clocks.read(property, value.getEnd()).at }]
    return value instanceof ICAL.Time ? [clocks.read(property, value)] : []
  }))
}

/** What an event takes when it begins then; nothing when it does not last. */
function takes(event: ICAL.Component, start: Moment, clocks: Clocks): Occurrence[] {
  if (!takesTime(event)) return []
  const to = start.ends ?? endOf(event, start, clocks)
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
function busyWithin(part: ICAL.Component, window: Window, clocks: Clocks): Occurrence[] {
  return part.getAllProperties('freebusy').flatMap((property) => {
    if (String(property.getFirstParameter('fbtype') ?? 'BUSY').toUpperCase() === 'FREE') return []
    return (property.getValues() as unknown[]).flatMap((value) => {
      if (!(value instanceof ICAL.Period)) return []
      const [from, to] = [clocks.read(property, value.start).at, clocks.read(property, value.getEnd()).at]
      return from < window.to && to > window.from && to > from ? [{ from, to, allDay: false, place: '', title: '', priority: 0 }] : []
    })
  })
}
