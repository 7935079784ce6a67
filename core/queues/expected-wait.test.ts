import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { chanceFrom } from '../../demo/company/chance'
import { expectedWait, moved, tellPlace, waitAhead } from './expected-wait'

/**
 * Two hundred thousand callers of a queue that is served in turn: each comes at random, talks and bears waiting at random. Of everybody who had to wait: the
 * place they came to, and how long it would have taken them if they had stayed.
 */
function queueFor({ serving, handling, patience, between }: { serving: number, handling: number, patience: number, between: number }, seed: number) {
  const chance = chanceFrom(seed)
  const random = (mean: number) => -mean * Math.log(1 - chance.next())
  const free = Array.from({ length: serving }, () => 0)
  let before: number[] = []
  const came: { place: number, wait: number }[] = []
  let [now, waited, gaveUp] = [0, 0, 0]
  for (let caller = 0; caller < 200_000; caller++) {
    now += random(between)
    const next = Math.min(...free)
    const wait = Math.max(0, next - now)
    const bears = random(patience)
    before = before.filter(gone => gone > now)
    if (wait > 0) came.push({ place: before.length + 1, wait })
    before.push(now + Math.min(wait, bears))
    waited += Math.min(wait, bears)
    if (bears < wait) gaveUp++
    else free[free.indexOf(next)] = now + wait + random(handling)
  }
  return { came, patience: waited / gaveUp }
}

describe('how long somebody waits', () => {
  it('is not known before a call has ended, or while nobody serves', () => {
    expect(expectedWait(1, { handling: undefined, serving: 3, patience: null })).toBeNull()
    expect(expectedWait(1, { handling: 60_000, serving: 0, patience: null })).toBeNull()
    expect(waitAhead(1, { handling: 60_000, serving: 0, patience: 9 })).toBeNull()
  })

  it('grows with the place and with patience, and shrinks with the people who serve', () => {
    const count = fc.integer({ min: 1, max: 99 })
    const time = fc.integer({ min: 1, max: 3_600_000 })
    fc.assert(fc.property(count, time, count, fc.option(time), (place, handling, serving, patience) => {
      const wait = expectedWait(place, { handling, serving, patience })!
      expect(expectedWait(place + 1, { handling, serving, patience })!).toBeGreaterThanOrEqual(wait)
      expect(expectedWait(place, { handling, serving: serving + 1, patience })!).toBeLessThanOrEqual(wait)
      expect(expectedWait(place, { handling, serving, patience: null })!).toBeGreaterThanOrEqual(wait)
      expect(Math.abs(expectedWait(serving, { handling, serving, patience: null })! - handling)).toBeLessThanOrEqual(1)
      expect(expectedWait(1, { handling, serving, patience })!).toBe(Math.round(handling / serving))
    }))
  })

  it('has the distribution of the published tables where nobody gives up', () => {
    // Upper and lower critical values of chi-square with 2n degrees of freedom: twice an Erlang wait of n phases (NIST/SEMATECH e-Handbook of Statistical
    // Methods, 1.3.6.7.4).
    const table = [
      [2, 0.9, 4.605], [2, 0.95, 5.991], [2, 0.99, 9.21], [10, 0.9, 15.987], [10, 0.95, 18.307], [20, 0.9, 28.412], [20, 0.99, 37.566], [100, 0.9, 118.498],
      [100, 0.999, 149.449], [2, 0.1, 0.211], [10, 0.1, 4.865], [20, 0.05, 10.851], [100, 0.1, 82.358],
    ] as const
    for (const [freedom, chance, value] of table) expect(moved(freedom / 2, 0, value / 2), `${freedom}, ${chance}`).toBeCloseTo(chance, 3)
    for (const [freedom, chance, value] of table.filter(([, chance]) => chance === 0.1 || chance === 0.9)) {
      const { low, high } = waitAhead(freedom / 2, { handling: 1_000_000, serving: 1, patience: null })!
      expect((chance === 0.1 ? low : high) / 1_000_000).toBeCloseTo(value / 2, 2)
    }
    expect(moved(5_000, 0, 5_000)).toBeCloseTo(0.502, 2)
    expect([moved(3, 0, 0), moved(3, 0.2, -1), moved(2, 0, 1e6), moved(2, 0.5, 1e6)]).toEqual([0, 0, 1, 1])
    expect(moved(7, 1e-9, 6), 'hardly anybody').toBeCloseTo(moved(7, 0, 6), 6)
  })

  it.each([
    { serving: 3, handling: 180_000, patience: 60_000, between: 30_000 },
    { serving: 4, handling: 180_000, patience: 150_000, between: 40_000 },
    { serving: 10, handling: 120_000, patience: 600_000, between: 12_000 },
    { serving: 1, handling: 60_000, patience: 90_000, between: 50_000 },
  ])('is what comes of it: $serving serve for $handling ms, callers give up after $patience, one comes every $between', (house) => {
    const { came, patience } = queueFor(house, 12_345)
    expect(patience / house.patience, 'patience as it is learned').toBeCloseTo(1, 1)
    for (const place of [1, 2, 3, 6]) {
      const waits = came.filter(one => one.place === place).map(({ wait }) => wait).sort((a, b) => a - b)
      if (waits.length < 5_000) continue
      const ahead = waitAhead(place, { ...house, patience })!
      const mean = waits.reduce((sum, wait) => sum + wait, 0) / waits.length
      expect(mean / ahead.mean, `mean at ${place}`).toBeCloseTo(1, 1)
      const share = (test: (wait: number) => boolean) => waits.filter(test).length / waits.length
      expect(share(wait => wait >= ahead.low && wait <= ahead.high), `eight in ten at ${place}`).toBeCloseTo(0.8, 1)
      expect(share(wait => wait < ahead.low), `one in ten at ${place}`).toBeCloseTo(0.1, 1)
      for (const time of [20_000, 60_000, 120_000]) expect(share(wait => wait <= time), `within ${time} at ${place}`).toBeCloseTo(ahead.within(time), 1)
    }
  })

  it('is said in words that promise no more than is known', () => {
    expect(spoken(english, tellPlace({ place: 1, wait: null }))).toBe('You are first.')
    expect(spoken(english, tellPlace({ place: 2, wait: 20_000 }))).toBe('You are second. Less than a minute.')
    expect(spoken(english, tellPlace({ place: 3, wait: 61_000 }))).toBe('You are third. About 1 minute.')
    expect(spoken(english, tellPlace({ place: 12, wait: 13 * 60_000 }))).toBe('You are number 12. About 15 minutes.')
  })
})
