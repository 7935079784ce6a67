/** A source of chance that always gives the same numbers for the same seed (mulberry32, public domain, by Tommy Ettinger). */
export interface Chance {
  /** Uniform in [0, 1). */
  next(): number
  /** Uniform whole number from `low` to `high`, both included. */
  between(low: number, high: number): number
  pick<T>(from: readonly T[]): T
  /** True with the given probability. */
  happens(probability: number): boolean
  /** Exponentially distributed with the given mean: the gaps of a Poisson process. */
  gap(mean: number): number
}

export function chanceFrom(seed: number): Chance {
  let a = seed >>> 0
  const next = () => {
    a = (a + 0x6D2B79F5) >>> 0
    let t = a
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  return {
    next,
    between: (low, high) => low + Math.floor(next() * (high - low + 1)),
    pick: from => from[Math.floor(next() * from.length)]!,
    happens: probability => next() < probability,
    gap: mean => -Math.log(1 - next()) * mean,
  }
}
