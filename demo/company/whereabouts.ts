import type { Company, Duty, Person, Telephone } from '../../core/company/company'
import { chanceFrom } from './chance'

/** Who is where when at Merrowby Ferries: duties and their rosters, calendars, and places with whoever is there. */

interface Plan { id: string, name: string, handles: string[], instead: string, department: string, turns: 'weekly' | 'daily' | 'office' }

const plans: Plan[] = [
  {
    id: 'harbour', name: 'Harbour on call', handles: ['duty harbour master', 'a ship in trouble'], instead: 'group:control', department: 'harbour',
    turns: 'weekly',
  },
  {
    id: 'engineering', name: 'Engineering on call', handles: ['duty engineer', 'breakdown on board'], instead: 'group:workshop', department: 'workshop',
    turns: 'daily',
  },
  { id: 'it', name: 'IT on call', handles: ['duty technician', 'ticket machine out of order'], instead: 'operators', department: 'it', turns: 'office' },
]
export const duties: Duty[] = plans.map(({ id, name, handles, instead }, position) => ({ id: `duty:${id}`, name, handles, instead, position }))

const firstPlace = 851
const placePlans = [
  ...['1', '2', '3', '4'].map(berth => ({ name: `Berth ${berth}`, department: 'harbour' })),
  ...['1', '2', '3'].map(counter => ({ name: `Counter ${counter}`, department: 'stennickTerminal' })),
  { name: 'Chart room', department: 'directors' }, { name: 'Lantern room', department: 'people' }, { name: 'Pilots\' cabin', department: 'harbour' },
]
/** Telephones that belong to berths, counters and rooms. */
export const places: Telephone[] = placePlans.map(({ name, department }, index) => ({
  id: `t${firstPlace + index}`, person: null, rank: 0, name, number: String(firstPlace + index), capacity: 1, inService: true, pickupGroup: department,
  direct: null, mayPage: 'no', mayListen: false, mayRecord: false,
}))

const zone = 'Europe/London'
const rooms = ['Chart room', 'Lantern room', 'Stennick Harbour', 'Isle of Hallow', 'On board MV Curlew', 'Dentist']
const days = ['MO', 'TU', 'WE', 'TH', 'FR']
/** A Monday long ago: what repeats began then. */
const firstMonday = Date.UTC(2025, 0, 6)
const day = 24 * 60 * 60_000

const stamp = (local: number) => new Date(local).toISOString().slice(0, 19).replaceAll(/[-:]/g, '')
const event = (uid: string, from: number, minutes: number, ...lines: string[]) => [
  'BEGIN:VEVENT', `UID:${uid}@merrowby.example`, 'DTSTAMP:20250101T000000Z', `DTSTART;TZID=${zone}:${stamp(from)}`,
  `DTEND;TZID=${zone}:${stamp(from + minutes * 60_000)}`, ...lines, 'END:VEVENT',
]
const head = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Merrowby Ferries//Calendars//EN']
const calendar = (events: string[]) => [...head, ...events, 'END:VCALENDAR', ''].join('\r\n')

/** Everybody whose calendar is shared: about one in three. */
export function sharesCalendar(index: number): boolean {
  return index > 2 && index % 3 === 1
}

/** What somebody's year looks like: meetings that come again and again, and a week away. */
export function calendarOf(index: number): string {
  const chance = chanceFrom(4_000 + index)
  const meetings = Array.from({ length: chance.between(1, 4) }, (_, number) => {
    const weekday = chance.between(0, 4)
    const from = firstMonday + weekday * day + chance.between(8, 16) * 60 * 60_000 + chance.pick([0, 0, 30]) * 60_000
    const place = chance.happens(0.6) ? [`LOCATION:${chance.pick(rooms)}`] : []
    return event(`m${index}-${number}`, from, chance.pick([30, 60, 60, 90, 150]), 'SUMMARY:Meeting', ...place,
      `RRULE:FREQ=WEEKLY;INTERVAL=${chance.pick([1, 1, 2])};BYDAY=${days[weekday]}`)
  })
  const away = firstMonday + chance.between(0, 51) * 7 * day
  const leave = ['BEGIN:VEVENT', `UID:a${index}@merrowby.example`, 'DTSTAMP:20250101T000000Z', `DTSTART;VALUE=DATE:${stamp(away).slice(0, 8)}`,
    `DTEND;VALUE=DATE:${stamp(away + 7 * day).slice(0, 8)}`, 'SUMMARY:Away', 'RRULE:FREQ=YEARLY', 'END:VEVENT']
  return calendar([...meetings.flat(), ...leave])
}

/** Whose turn it is, week by week, day and night, or in office hours alone: nobody else is there at other times. */
export function rosterOf(company: Company, duty: string): string {
  const { department, turns } = plans.find(({ id }) => `duty:${id}` === duty)!
  const people = Object.values(company.people).filter(person => person.department === department).slice(0, turns === 'office' ? 2 : 4)
  const nameOf = ({ first, last }: Person) => `SUMMARY:${first} ${last}`
  const each = people.map((person, index) => {
    const week = firstMonday + index * 7 * day
    if (turns === 'weekly') return event(`w${index}`, week + 8 * 3_600_000, 7 * 24 * 60, nameOf(person), `RRULE:FREQ=WEEKLY;INTERVAL=${people.length}`)
    if (turns === 'daily') {
      const begins = firstMonday + Math.floor(index / 2) * day + (index % 2 === 0 ? 8 : 20) * 3_600_000
      return event(`d${index}`, begins, 12 * 60, nameOf(person), `RRULE:FREQ=DAILY;INTERVAL=${Math.max(1, Math.ceil(people.length / 2))}`)
    }
    return event(`o${index}`, week + 9 * 3_600_000, 8 * 60, nameOf(person),
      `RRULE:FREQ=WEEKLY;INTERVAL=${people.length};BYDAY=${days.join(',')}`)
  })
  return calendar(each.flat())
}

const ships = ['MV Curlew', 'MV Sandpiper', 'MV Dunlin']
const visitors = ['Pilot Aldous Wick', 'Inspector Perpetua Vane', 'Survey party', 'Painters', 'Gangway fitters']

/** Who is at which place at an hour of the day, as the harbour's own program tells it (CSV). */
export function occupantsAt(at: number): string {
  const hour = Math.floor(at / 3_600_000)
  const chance = chanceFrom(hour)
  // Every ship is at one berth or at sea.
  const berths = ships.flatMap((ship, index) => (hour + index) % 3 === 0 ? [] : [[places[index + (hour % 2)]!.number, ship]])
  const others = places.slice(7).filter(() => chance.happens(0.6)).map(place => [place.number, chance.pick(visitors)])
  return ['place,occupant', ...[...berths, ...others].map(row => row.join(','))].join('\r\n')
}
