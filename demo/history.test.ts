import { beforeAll, describe, expect, it } from 'vitest'
import type { JournalItem } from '../server/journal/items'
import { merrowby } from './company/merrowby'
import { historyOf } from './history'

const until = Date.UTC(2031, 4, 13, 7)
const options = { seed: 3, days: 8, until }
const hour = 3_600_000

describe('the history of the demo', () => {
  let days: JournalItem[][]
  beforeAll(() => {
    days = [...historyOf(merrowby(), options)]
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
    for (const { startedAt } of records()) {
      const begun = new Date(startedAt)
      expect(begun.getUTCDay() % 6).not.toBe(0)
      expect(startedAt % (24 * hour)).toBeGreaterThanOrEqual(8 * hour)
      expect(startedAt % (24 * hour)).toBeLessThan(17 * hour)
      perDay.set(begun.getUTCDay(), (perDay.get(begun.getUTCDay()) ?? 0) + 1)
    }
    // Eight days from a Monday to a Monday.
    expect(days).toHaveLength(6)
    expect(perDay.get(1)! / 2).toBeGreaterThan(perDay.get(3)!)
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

  it('is the same for the same seed, numbered without a gap', () => {
    const events = all().flatMap(({ event }) => event ?? [])
    expect(events.map(({ seq }) => seq)).toEqual(events.map((_, index) => index + 1))
    expect([...historyOf(merrowby(), options)].flat().map(({ event }) => event)).toEqual(all().map(({ event }) => event))
  })
})
