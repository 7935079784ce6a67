import { beforeAll, describe, expect, it } from 'vitest'
import { localTime } from '../core/calendar/zones'
import type { JournalItem } from '../server/journal/items'
import { merrowby } from './company/merrowby'
import { LegBook } from '../core/figures/leg-book'
import { epochOf, historyOf, silentColleague, weekOf } from './history'

const until = Date.UTC(2031, 4, 13, 7)
const seed = 3
/** Three weeks, the last of which has had one day. */
const weeks = [2, 1, 0].map(ago => weekOf(until) - ago)
const played = (week: number) => [...historyOf(merrowby(), { seed, week, until })]
const hour = 3_600_000

describe('the history of the demo', () => {
  let days: JournalItem[][]
  beforeAll(() => {
    days = weeks.flatMap(played)
  })
  const all = () => days.flat()
  const records = () => {
    const changes = all().flatMap(item => item.changes).flatMap(change => change.kind === 'record' ? [change.record] : [])
    return [...new Map(changes.map(record => [record.id, record])).values()]
  }

  it('leaves nobody on the line, and ends before the present', () => {
    expect(records().filter(record => record.outcome === 'live')).toEqual([])
    expect(Math.max(...all().map(({ event }) => event?.at ?? 0))).toBeLessThan(until)
  })

  it('has working days only, within their hours, and more callers on a Monday', () => {
    const perDay = new Map<number, number>()
    for (const record of records()) {
      const startedAt = localTime(merrowby().settings.zone, record.startedAt)
      const begun = new Date(startedAt)
      expect(begun.getUTCDay() % 6).not.toBe(0)
      expect(startedAt % (24 * hour)).toBeGreaterThanOrEqual(8 * hour)
      expect(startedAt % (24 * hour)).toBeLessThan(17 * hour)
      perDay.set(begun.getUTCDay(), (perDay.get(begun.getUTCDay()) ?? 0) + 1)
    }
    // Fifteen days from a Monday to a Monday.
    expect(days).toHaveLength(11)
    expect(perDay.get(1)! / 3).toBeGreaterThan(perDay.get(3)! / 2)
  })

  it('has habits worth finding: somebody who never answers, a queue that is short of people at noon, a morning of cancelled sailings', () => {
    const book = new LegBook()
    for (const { event, changes } of all()) book.add(changes.filter(change => change.kind.startsWith('leg')) as never, event?.seq ?? 0)
    const hourOf = (at: number) => Math.floor(localTime(merrowby().settings.zone, at) % (24 * hour) / hour)
    const silent = book.legs.filter(({ place }) => place === silentColleague(merrowby()))
    expect(silent.length).toBeGreaterThan(3)
    expect(silent.filter(({ end }) => end === 'answered')).toEqual([])
    const bookings = book.legs.filter(({ place }) => place === 'queue:reservations')
    const mean = (legs: typeof bookings) => legs.reduce((sum, { waited }) => sum + waited!, 0) / legs.length
    const atNoon = bookings.filter(({ at }) => hourOf(at) === 11 || hourOf(at) === 12)
    expect(mean(atNoon)).toBeGreaterThan(2 * mean(bookings.filter(one => !atNoon.includes(one))))
    const news = book.legs.filter(({ of, line, at }) => of === 'line' && line === 'control' && hourOf(at) < 11)
    const perDay = new Map<number, number>()
    for (const { at } of news) perDay.set(Math.floor(at / (24 * hour)), (perDay.get(Math.floor(at / (24 * hour))) ?? 0) + 1)
    const counts = [...perDay.values()].sort((a, b) => b - a)
    expect(counts[0]).toBeGreaterThan(3 * counts[Math.floor(counts.length / 2)]!)
    const perHour = (hour: number) => bookings.filter(({ at }) => hourOf(at) === hour).length
    expect(perHour(10) + perHour(11)).toBeGreaterThan(1.3 * (perHour(14) + perHour(15)))
  })

  it('has calls to customers, most of them put down to something', () => {
    const outside = records().filter(({ direction, answeredAt }) => direction === 'outbound' && answeredAt !== null)
    const coded = outside.filter(({ account }) => account !== null)
    expect(coded.length).toBeGreaterThan(20)
    expect(coded.length).toBeLessThan(outside.length)
  })

  it('holds what a log is for: calls answered, passed on, missed, given up, parked, and left in a voicemail', () => {
    const outcomes = new Set(records().map(({ outcome }) => outcome))
    for (const outcome of ['answered', 'missed', 'gaveUp']) expect(outcomes).toContain(outcome)
    expect(records().some(({ answeredBy, endedWith }) => answeredBy !== endedWith)).toBe(true)
    const kinds = new Set(all().flatMap(item => item.changes.map(change => change.kind)))
    for (const kind of ['parking', 'voice']) expect(kinds).toContain(kind)
  })

  it('is the same for the same seed, each week numbered without a gap, whichever is made up first', () => {
    const eventsOf = (week: number) => played(week).flat().flatMap(({ event }) => event ?? [])
    for (const week of [...weeks].reverse()) {
      const events = eventsOf(week)
      expect(events.map(({ seq }) => seq)).toEqual(events.map((_, index) => index + 1))
      const theirs = all().filter(({ epoch }) => epoch === epochOf(week)).flatMap(({ event }) => event ?? [])
      expect(theirs).toEqual(events)
    }
  })

  it('stops before the day on which the demo begins, and has nothing of a week that has only just begun', () => {
    expect(played(weekOf(Date.UTC(2031, 4, 12, 9)))).toHaveLength(1)
    const monday = Date.UTC(2031, 4, 12, 9)
    expect([...historyOf(merrowby(), { seed, week: weekOf(monday), until: monday })]).toEqual([])
  })
})
