import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { erlang, expectedWait, tellPlace, waitAhead } from './expected-wait'

describe('how long somebody waits', () => {
  it('is not known before a call has ended, or while nobody serves', () => {
    expect(expectedWait(1, undefined, 3)).toBeNull()
    expect(expectedWait(1, 60_000, 0)).toBeNull()
  })

  it('grows with the place and shrinks with the people who serve', () => {
    const count = fc.integer({ min: 1, max: 99 })
    fc.assert(fc.property(count, fc.integer({ min: 1, max: 3_600_000 }), count, (place, handling, serving) => {
      const wait = expectedWait(place, handling, serving)!
      expect(expectedWait(place + 1, handling, serving)!).toBeGreaterThanOrEqual(wait)
      expect(expectedWait(place, handling, serving + 1)!).toBeLessThanOrEqual(wait)
      expect(expectedWait(serving, handling, serving)).toBe(handling)
    }))
  })

  it('has the distribution of the published tables', () => {
    // Upper and lower critical values of chi-square with 2n degrees of freedom: twice an Erlang wait of n phases (NIST/SEMATECH e-Handbook of Statistical
    // Methods, 1.3.6.7.4).
    const table = [
      [2, 0.9, 4.605], [2, 0.95, 5.991], [2, 0.99, 9.21], [10, 0.9, 15.987], [10, 0.95, 18.307], [20, 0.9, 28.412], [20, 0.99, 37.566], [100, 0.9, 118.498],
      [100, 0.999, 149.449], [2, 0.1, 0.211], [10, 0.1, 4.865], [20, 0.05, 10.851], [100, 0.1, 82.358],
    ] as const
    for (const [freedom, chance, value] of table) expect(erlang(freedom / 2, value / 2), `${freedom}, ${chance}`).toBeCloseTo(chance, 3)
    for (const [freedom, chance, value] of table.filter(([, chance]) => chance === 0.1 || chance === 0.9)) {
      const { low, high } = waitAhead(freedom / 2, 1_000_000, 1)!
      expect((chance === 0.1 ? low : high) / 1_000_000).toBeCloseTo(value / 2, 2)
    }
    expect(erlang(5_000, 5_000)).toBeCloseTo(0.502, 2)
    expect([erlang(3, 0), erlang(3, -1), erlang(2, 1e6)]).toEqual([0, 0, 1])
  })

  it('is what comes of it when calls end at random: four serve, the sixth in the queue', () => {
    let state = 12_345
    const chance = () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648
    const [handling, serving, place, promise] = [180_000, 4, 6, 240_000]
    const waits = Array.from({ length: 20_000 }, () => {
      const ends = Array.from({ length: serving }, () => -handling * Math.log(1 - chance()))
      let now = 0
      for (let ended = 0; ended < place; ended++) {
        now = Math.min(...ends)
        ends[ends.indexOf(now)] = now - handling * Math.log(1 - chance())
      }
      return now
    }).sort((a, b) => a - b)
    const ahead = waitAhead(place, handling, serving)!
    const mean = waits.reduce((sum, wait) => sum + wait, 0) / waits.length
    expect(mean / ahead.mean).toBeCloseTo(1, 1)
    expect(waits[2_000]! / ahead.low).toBeCloseTo(1, 1)
    expect(waits[18_000]! / ahead.high).toBeCloseTo(1, 1)
    expect(waits.filter(wait => wait <= promise).length / waits.length).toBeCloseTo(ahead.within(promise), 1)
  })

  it('is said in words that promise no more than is known', () => {
    expect(tellPlace({ place: 1, wait: null })).toBe('You are first.')
    expect(tellPlace({ place: 2, wait: 20_000 })).toBe('You are second. Less than a minute.')
    expect(tellPlace({ place: 3, wait: 61_000 })).toBe('You are third. About 1 minute.')
    expect(tellPlace({ place: 12, wait: 13 * 60_000 })).toBe('You are number 12. About 15 minutes.')
  })
})
