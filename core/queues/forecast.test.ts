import { describe, expect, it } from 'vitest'
import { chanceFrom, type Chance } from '../../demo/company/chance'
import { type Arrivals, forecast, lookBack, type OpenAt } from './forecast'

const day = 24 * 60 * 60_000
const begin = Date.UTC(2031, 0, 6)
const sum = (list: readonly number[]) => list.reduce((all, one) => all + one, 0)

function poisson(chance: Chance, mean: number): number {
  let [count, product] = [0, chance.next()]
  for (const least = Math.exp(-mean); product > least; product *= chance.next()) count++
  return count
}

/** Made-up months: open from eight to five on working days, a peak at eleven, busy Mondays, days that differ, and more callers from week to week. */
function months(days: number, seed: number, { growth = 0.01, spread = 0.25, level = (_at: number): number => 1 } = {}): Map<number, number[]> {
  const chance = chanceFrom(seed)
  const arrivals = new Map<number, number[]>()
  for (let at = 0; at < days; at++) {
    const weekday = new Date(begin + at * day).getUTCDay()
    const open = weekday > 0 && weekday < 6
    const mood = level(at) * (1 + growth) ** (at / 7) * (weekday === 1 ? 1.6 : 1) * (1 + spread * (2 * chance.next() - 1))
    arrivals.set(begin + at * day, Array.from({ length: 48 }, (_, half) =>
      open && half >= 16 && half < 34 ? poisson(chance, mood * (6 + 6 * Math.exp(-(((half - 22) / 4) ** 2)))) : 0))
  }
  return arrivals
}

describe('how many calls come', () => {
  it('is foretold better than by the same hour of last week, and by the average of four weeks', () => {
    for (const [seed, growth] of [[1, 0.01], [2, 0], [3, 0.02], [4, -0.01]] as const) {
      const back = lookBack(months(140, seed, { growth }), { weeks: 6 })!
      expect(back.days).toBe(30)
      expect(back.ours, `seed ${seed}`).toBeLessThan(back.lastWeek)
      expect(back.ours, `seed ${seed}`).toBeLessThan(back.fourWeeks)
    }
  })

  it('lies between its bounds eight times in ten', () => {
    const arrivals = months(280, 7, { growth: 0 })
    let [inside, all] = [0, 0]
    for (let at = 140; at < 280; at++) {
      const local = begin + at * day
      const { halfHours } = forecast(arrivals, local)
      for (const [half, real] of arrivals.get(local)!.entries()) {
        if (halfHours[half]!.mean === 0) continue
        all++
        if (real >= halfHours[half]!.low && real <= halfHours[half]!.high) inside++
      }
    }
    // Whole calls: bounds that leave out one in ten at most on either side hold a little more than eight in ten.
    expect(inside / all).toBeGreaterThan(0.78)
    expect(inside / all).toBeLessThan(0.92)
  })

  it.each([
    ['has doubled four weeks ago', 119, (at: number) => at < 112 ? 1 : 2],
    ['has halved four weeks ago', 119, (at: number) => at < 112 ? 1 : 0.5],
    ['goes up and down with the season', 98, (at: number) => 1 + 0.5 * Math.sin(at / 20)],
    ['is very low', 112, () => 0.03],
  ])('is foretold as it is now where the level %s: better than by either simple way, and between its bounds', (_, from, level) => {
    const squares = { ours: 0, lastWeek: 0, fourWeeks: 0 }
    let [inside, all] = [0, 0]
    for (const seed of [1, 2, 3, 4, 5]) {
      const arrivals = months(140, seed, { growth: 0, level })
      for (let local = begin + from * day; local < begin + 140 * day; local += day) {
        const { halfHours } = forecast(arrivals, local)
        const weeks = [1, 2, 3, 4].map(week => arrivals.get(local - week * 7 * day)!)
        for (const [half, { mean, low, high }] of halfHours.entries()) {
          if (mean === 0) continue
          const real = arrivals.get(local)![half]!
          all++
          if (real >= low && real <= high) inside++
          squares.ours += (mean - real) ** 2
          squares.lastWeek += (weeks[0]![half]! - real) ** 2
          squares.fourWeeks += (sum(weeks.map(week => week[half]!)) / 4 - real) ** 2
        }
      }
    }
    expect(squares.ours).toBeLessThan(0.95 * Math.min(squares.lastWeek, squares.fourWeeks))
    // Where hardly anybody calls, no bounds of whole calls leave out as much as one in ten.
    expect(inside / all).toBeGreaterThan(0.77)
    expect(inside / all).toBeLessThan(0.97)
  })

  it('is nothing on a holiday, and a holiday that is over tells nothing of other days', () => {
    const arrivals = months(100, 11)
    const [holiday, comes] = [begin + 91 * day, begin + 98 * day]
    const hours: OpenAt = (local, half) => local !== holiday && local !== begin + 105 * day && (local !== comes || half < 24)
    const { halfHours } = forecast(arrivals, comes, { open: hours })
    const without = forecast(new Map([...arrivals].filter(([at]) => at !== holiday)), comes)
    expect(halfHours.slice(0, 24)).toEqual(without.halfHours.slice(0, 24))
    expect(without.halfHours[22]!.mean).not.toEqual(forecast(arrivals, comes).halfHours[22]!.mean)
    expect(halfHours.slice(24).every(({ high }) => high === 0), 'closed from noon').toBe(true)
    expect(forecast(arrivals, begin + 105 * day, { open: hours }).halfHours.every(({ mean }) => mean === 0), 'a Monday that is a holiday').toBe(true)
    expect(lookBack(arrivals, { open: hours })!.days).toBe(lookBack(arrivals)!.days)
    expect(lookBack(arrivals, { open: hours })!.ours).not.toBe(lookBack(arrivals)!.ours)
  })

  it('follows a day that is busier than foretold', () => {
    const arrivals = months(100, 9)
    const local = begin + 98 * day
    const plain = forecast(arrivals, local)
    const twice = plain.halfHours.map(({ mean }) => 2 * mean)
    const later = forecast(arrivals, local, { seen: twice, now: 24 })
    expect(later.halfHours[30]!.mean).toBeGreaterThan(1.5 * plain.halfHours[30]!.mean)
    expect(forecast(arrivals, local, { seen: [], now: 0 }).halfHours).toEqual(plain.halfHours)
  })

  it('says how little it knows: of two days, of none, of a weekday that has none', () => {
    const two: Arrivals = new Map([...months(100, 3)].slice(0, 2))
    const known = forecast(two, begin + 7 * day)
    expect(known).toMatchObject({ days: 2, sameWeekday: false })
    const { mean, low, high } = known.halfHours[22]!
    expect(high - low).toBeGreaterThan(mean)
    expect(lookBack(two)).toBeNull()
    expect(forecast(new Map(), begin)).toMatchObject({ days: 0 })
    expect(sum(forecast(new Map(), begin).halfHours.map(one => one.mean))).toBe(0)
  })

  it('foretells nothing where nobody ever called, and takes no notice of days that were closed', () => {
    const arrivals = months(100, 5)
    const closed = new Map(arrivals).set(begin + 91 * day, Array.from({ length: 48 }, () => 0))
    const plain = forecast(new Map([...arrivals].filter(([at]) => at !== begin + 91 * day)), begin + 98 * day)
    expect(forecast(closed, begin + 98 * day)).toEqual(plain)
    expect(forecast(arrivals, begin + 96 * day).halfHours.every(({ mean }) => mean === 0), 'a Saturday').toBe(true)
    expect(plain.halfHours[10]).toEqual({ mean: 0, low: 0, high: 0 })
    expect(plain.halfHours.every(({ low, mean, high }) => low <= mean + 1 && mean <= high + 1)).toBe(true)
  })
})
