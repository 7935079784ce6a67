import fc from 'fast-check'
import { describe, expect, it, vi } from 'vitest'
import { isOpenAt, isOpenWithin, nextChange } from './hours'

const london = 'Europe/London'
const daily = (opens: number, closes: number) => [1, 2, 3, 4, 5, 6, 7].map(day => ({ day, opens, closes }))
const at = (text: string) => Date.parse(text)

describe('opening hours', () => {
  it('are those of the place, in summer and in winter', () => {
    const office = { zone: london, week: [{ day: 1, opens: 8 * 60, closes: 18 * 60 }], holidays: [] }
    expect(isOpenAt(office, at('2031-05-12T07:00:00Z'))).toBe(true)
    expect(isOpenAt(office, at('2031-05-12T06:59:59Z'))).toBe(false)
    expect(isOpenAt(office, at('2031-05-12T16:59:59Z'))).toBe(true)
    expect(isOpenAt(office, at('2031-05-12T17:00:00Z'))).toBe(false)
    expect(isOpenAt(office, at('2031-12-01T07:59:00Z'))).toBe(false)
    expect(nextChange(office, at('2031-05-12T12:00:00Z'))).toBe(at('2031-05-12T17:00:00Z'))
    expect(nextChange(office, at('2031-05-12T17:00:00Z'))).toBe(at('2031-05-19T07:00:00Z'))
  })

  it('are open within a part of a day when they are at some moment of it', () => {
    const office = { week: [{ day: 1, opens: 8 * 60 + 15, closes: 12 * 60 }], holidays: [{ date: '2031-05-19', name: 'Harbour day' }] }
    const within = (from: string, until: string) => isOpenWithin(office, at(`${from}Z`), at(`${until}Z`))
    expect(within('2031-05-12T08:00', '2031-05-12T08:15')).toBe(false)
    expect(within('2031-05-12T08:00', '2031-05-12T08:30')).toBe(true)
    expect(within('2031-05-12T11:59', '2031-05-12T13:00')).toBe(true)
    expect(within('2031-05-12T12:00', '2031-05-12T13:00')).toBe(false)
    expect(within('2031-05-13T00:00', '2031-05-14T00:00'), 'a Tuesday').toBe(false)
    expect(within('2031-05-19T00:00', '2031-05-20T00:00'), 'a holiday').toBe(false)
  })

  it('that never change cost no search of a year, however they are written', () => {
    const always = { zone: london, holidays: [], week: daily(0, 600).flatMap(one => [one, { ...one, opens: 540, closes: 1440 }]) }
    const asked = vi.spyOn(Intl.DateTimeFormat.prototype, 'formatToParts')
    expect(nextChange(always, at('2031-05-12T12:00:00Z'))).toBeNull()
    expect(asked.mock.calls.length, 'how often a clock was read').toBeLessThan(10)
    asked.mockRestore()
    expect(nextChange({ ...always, holidays: [{ date: '2031-12-25', name: 'Christmas' }] }, at('2031-05-12T12:00:00Z'))).toBe(at('2031-12-25T00:00:00Z'))
    expect(nextChange({ ...always, week: always.week.slice(0, 13) }, at('2031-05-12T12:00:00Z')), 'a Sunday that ends at ten').toBe(at('2031-05-18T09:00:00Z'))
  })

  it('that end at midnight and begin there go on without a gap', () => {
    const always = { zone: london, week: daily(0, 1440), holidays: [] }
    expect(nextChange(always, at('2031-05-12T12:00:00Z'))).toBeNull()
    const evening = { zone: london, week: [{ day: 1, opens: 18 * 60, closes: 1440 }], holidays: [] }
    expect(nextChange(evening, at('2031-05-12T20:00:00Z'))).toBe(at('2031-05-12T23:00:00Z'))
  })

  it('follow the clock when it changes: an hour that is not there, and one that is there twice', () => {
    const night = { zone: london, week: daily(90, 150), holidays: [] }
    // On 30 March 2031 clocks go from 1:00 to 2:00; on 26 October from 2:00 back to 1:00.
    expect(nextChange(night, at('2031-03-30T00:00:00Z'))).toBe(at('2031-03-30T01:00:00Z'))
    expect(nextChange(night, at('2031-03-30T01:00:00Z'))).toBe(at('2031-03-30T01:30:00Z'))
    expect(nextChange(night, at('2031-10-26T00:00:00Z'))).toBe(at('2031-10-26T00:30:00Z'))
  })

  it('are found on the very day of a change of clocks, also when they are asked for late in the day before', () => {
    const early = { zone: 'Australia/Lord_Howe', week: [{ day: 7, opens: 1, closes: 32 }], holidays: [] }
    // On 5 October 2031 clocks there go from 2:00 to 2:30.
    expect(nextChange(early, at('2031-10-04T20:00:00Z'))).toBe(at('2031-10-11T13:01:00Z'))
    expect(nextChange(early, at('2031-10-04T13:31:00Z'))).toBe(at('2031-10-04T14:02:00Z'))
    const night = { zone: london, week: [{ day: 7, opens: 17, closes: 32 }], holidays: [] }
    expect(nextChange(night, at('2031-03-29T23:45:00Z'))).toBe(at('2031-03-30T00:17:00Z'))
    expect(nextChange(night, at('2031-03-30T00:17:00Z'))).toBe(at('2031-03-30T00:32:00Z'))
  })

  it('rest on a holiday of their own place', () => {
    const holidays = [{ date: '2031-05-12', name: 'Regatta' }]
    const here = { zone: london, week: daily(8 * 60, 18 * 60), holidays }
    expect(isOpenAt(here, at('2031-05-12T10:00:00Z'))).toBe(false)
    expect(isOpenAt({ ...here, holidays: [] }, at('2031-05-12T10:00:00Z'))).toBe(true)
    expect(nextChange(here, at('2031-05-11T18:00:00Z'))).toBe(at('2031-05-13T07:00:00Z'))
  })

  const span = fc.record({ day: fc.integer({ min: 1, max: 7 }), opens: fc.integer({ min: 0, max: 1438 }), length: fc.integer({ min: 1, max: 700 }) })
    .map(({ day, opens, length }) => ({ day, opens, closes: Math.min(1440, opens + length) }))
  const someWeek = fc.array(span, { minLength: 1, maxLength: 6 })

  it('change at the next change and at no time before', () => {
    const zone = fc.constantFrom(london, 'Asia/Kathmandu', 'America/St_Johns', 'Australia/Lord_Howe', 'UTC')
    const instant = fc.integer({ min: at('2031-01-01'), max: at('2032-01-01') })
    fc.assert(fc.property(someWeek, zone, instant, fc.integer({ min: 0, max: 99 }), (week, zone, from, part) => {
      const hours = { zone, week, holidays: [] }
      const change = nextChange(hours, from)
      if (change === null) return
      expect(isOpenAt(hours, change)).not.toBe(isOpenAt(hours, from))
      expect(isOpenAt(hours, from + Math.floor((change - from) * part / 100))).toBe(isOpenAt(hours, from))
      expect(isOpenAt(hours, change - 1)).toBe(isOpenAt(hours, from))
    }))
  })

  it('around changes of clocks change when somebody who looks every minute sees it', () => {
    const change = fc.constantFrom(
      [london, '2031-03-30T01:00Z'], [london, '2031-10-26T01:00Z'], ['Australia/Lord_Howe', '2031-10-04T15:30Z'], ['Australia/Lord_Howe', '2031-04-05T15:00Z'],
      ['America/Santiago', '2031-04-06T03:00Z'], ['America/Santiago', '2031-09-07T04:00Z'], ['Asia/Beirut', '2031-10-25T21:00Z'],
    )
    fc.assert(fc.property(someWeek, change, fc.integer({ min: -2_880, max: 1_440 }), (week, [zone, changed], minutes) => {
      const hours = { zone: zone!, week, holidays: [] }
      const from = at(changed!) + minutes * 60_000
      const open = isOpenAt(hours, from)
      let seen = from
      for (let looks = 0; looks < 2_880 && isOpenAt(hours, seen) === open; looks++) seen += 60_000
      if (isOpenAt(hours, seen) === open) expect(nextChange(hours, from) ?? Infinity).toBeGreaterThan(seen)
      else expect(nextChange(hours, from)).toBe(seen)
    }), { numRuns: 40 })
  })
})
