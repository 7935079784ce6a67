import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isOpenAt, nextChange } from './hours'

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

  it('rest on a holiday of their own place', () => {
    const holidays = [{ date: '2031-05-12', name: 'Regatta' }]
    const here = { zone: london, week: daily(8 * 60, 18 * 60), holidays }
    expect(isOpenAt(here, at('2031-05-12T10:00:00Z'))).toBe(false)
    expect(isOpenAt({ ...here, holidays: [] }, at('2031-05-12T10:00:00Z'))).toBe(true)
    expect(nextChange(here, at('2031-05-11T18:00:00Z'))).toBe(at('2031-05-13T07:00:00Z'))
  })

  it('change at the next change and at no time before', () => {
    const span = fc.record({ day: fc.integer({ min: 1, max: 7 }), opens: fc.integer({ min: 0, max: 1438 }), length: fc.integer({ min: 1, max: 700 }) })
      .map(({ day, opens, length }) => ({ day, opens, closes: Math.min(1440, opens + length) }))
    const zone = fc.constantFrom(london, 'Asia/Kathmandu', 'America/St_Johns', 'Australia/Lord_Howe', 'UTC')
    const instant = fc.integer({ min: at('2031-01-01'), max: at('2032-01-01') })
    fc.assert(fc.property(fc.array(span, { minLength: 1, maxLength: 6 }), zone, instant, fc.integer({ min: 0, max: 99 }), (week, zone, from, part) => {
      const hours = { zone, week, holidays: [] }
      const change = nextChange(hours, from)
      if (change === null) return
      expect(isOpenAt(hours, change)).not.toBe(isOpenAt(hours, from))
      expect(isOpenAt(hours, from + Math.floor((change - from) * part / 100))).toBe(isOpenAt(hours, from))
      expect(isOpenAt(hours, change - 1)).toBe(isOpenAt(hours, from))
    }))
  })
})
