/**
 * How many calls the coming half-hours bring, from those of the days before. Days are midnights as the clock shows them, as if in UTC; a day has 48
 * half-hours. Nothing is known of a day that is not in the history; a day on which nobody called tells that the house was closed.
 */

/** Calls of past days, by day and half-hour. */
export type Arrivals = ReadonlyMap<number, readonly number[]>

export interface Expected {
  mean: number
  /** One in ten brings fewer than `low`, one in ten more than `high`. */
  low: number
  high: number
}

export interface Forecast {
  /** For each half-hour of the day. */
  halfHours: Expected[]
  /** How many days of the same weekday it was made of, or of any when those are too few. */
  days: number
  sameWeekday: boolean
}

const day = 24 * 60 * 60_000
const halfHours = 48
const weeksBack = 12
/** A week counts so much less than the one after it: habits change slowly (exponential smoothing, R. G. Brown 1959). */
const fading = 0.85
/** With fewer days of the same weekday all days are taken. */
const fewest = 3
/** What half-hours lend their neighbours: a busy time is busy for longer than one of them. */
const lent = 0.15
/** Of a day that is under way: so many expected calls weigh as much as what was seen (a gamma prior for the pace of the day). */
const prior = 25
/** The variance between days, in squares of the mean, when there are too few days to see it. */
const unknownSpread = 0.2

const weekdayOf = (local: number) => new Date(local).getUTCDay()
const sumOf = (list: readonly number[]) => list.reduce((sum, one) => sum + one, 0)

interface Telling { calls: readonly number[], weight: number }

/** Past days that tell about a day, with how much each counts: of the same weekday while there are enough; none, when the house is mostly closed on it. */
function tellingDays(arrivals: Arrivals, local: number): { days: Telling[], known: number, sameWeekday: boolean } {
  const past = [...arrivals].filter(([at]) => at < local && at >= local - weeksBack * 7 * day)
  const same = past.filter(([at]) => weekdayOf(at) === weekdayOf(local))
  const sameWeekday = same.length >= fewest
  const telling = sameWeekday ? same : past
  const open = telling.filter(([, calls]) => sumOf(calls) > 0)
  const isClosed = sameWeekday && open.length < same.length / 2
  const days = isClosed ? [] : open.map(([at, calls]) => ({ calls, weight: fading ** ((local - at) / (7 * day)) }))
  return { days, known: isClosed ? same.length : open.length, sameWeekday }
}

/** The weighted mean of each half-hour, a little smoothed. */
function meanOf(days: readonly Telling[]): number[] {
  const weights = sumOf(days.map(({ weight }) => weight))
  const means = Array.from({ length: halfHours }, (_, at) => sumOf(days.map(({ calls, weight }) => weight * (calls[at] ?? 0))) / weights)
  return means.map((mean, at) => {
    // Whoever is closed lends nothing, and gets nothing.
    const neighbours = [means[at - 1], means[at + 1]].filter((one): one is number => one !== undefined && one > 0)
    return mean === 0 || neighbours.length === 0 ? mean : (1 - lent) * mean + lent * sumOf(neighbours) / neighbours.length
  })
}

/**
 * @param local the day; @param seen calls of this day so far, by half-hour; only those before `now` (a half-hour of the day) are over
 */
export function forecast(arrivals: Arrivals, local: number, seen: readonly number[] = [], now = 0): Forecast {
  const { days, known, sameWeekday } = tellingDays(arrivals, local)
  if (days.length === 0) return { halfHours: Array.from({ length: halfHours }, () => ({ mean: 0, low: 0, high: 0 })), days: known, sameWeekday }
  const means = meanOf(days)
  const spread = spreadOf(days, means)
  const [expectedSoFar, seenSoFar] = [sumOf(means.slice(0, now)), sumOf(seen.slice(0, now))]
  const pace = (seenSoFar + prior) / (expectedSoFar + prior)
  return { halfHours: means.map(mean => interval(mean * pace, spread)), days: known, sameWeekday }
}

/**
 * How much days differ beyond chance: calls come at random (Poisson) around a mean that differs from day to day, so the variance is the mean and
 * this times its square: a negative binomial, by its moments.
 */
function spreadOf(days: readonly { calls: readonly number[] }[], means: readonly number[]): number {
  if (days.length < fewest) return unknownSpread
  let [beyond, squares] = [0, 0]
  for (const { calls } of days) {
    for (const [at, mean] of means.entries()) {
      beyond += ((calls[at] ?? 0) - mean) ** 2 * days.length / (days.length - 1) - mean
      squares += mean ** 2
    }
  }
  return squares === 0 ? unknownSpread : Math.max(0, beyond / squares)
}

/** The tenth and the ninetieth in a hundred of a negative binomial with a mean and a spread. */
function interval(mean: number, spread: number): Expected {
  if (mean === 0) return { mean: 0, low: 0, high: 0 }
  const size = 1 / Math.max(spread, 1e-6)
  let chance = Math.exp(-size * Math.log1p(mean / size))
  let [below, low] = [0, -1]
  for (let calls = 0; ; calls++) {
    below += chance
    if (low < 0 && below >= 0.1) low = calls
    if (below >= 0.9 || calls > 50 + 20 * mean) return { mean, low: Math.max(0, low), high: calls }
    chance *= (size + calls) / (calls + 1) * mean / (mean + size)
  }
}

/** How far off forecasts of past days would have been, in calls a half-hour, beside two simple ways to foretell. */
export interface LookedBack { ours: number, lastWeek: number, fourWeeks: number, days: number, halfHours: number }

/**
 * Foretells each of the latest days (so many weeks of them) from those before it alone, and counts the mean error over the half-hours in which anybody
 * called or might have; null when there is too little to look back on.
 */
export function lookBack(arrivals: Arrivals, weeks = 4): LookedBack | null {
  const last = Math.max(...arrivals.keys())
  const sums = { ours: 0, lastWeek: 0, fourWeeks: 0, days: 0, halfHours: 0 }
  for (const [local, calls] of arrivals) {
    const before = [1, 2, 3, 4].map(week => arrivals.get(local - week * 7 * day))
    if (local <= last - weeks * 7 * day || sumOf(calls) === 0 || before.some(one => !one)) continue
    const { halfHours: expected } = forecast(arrivals, local)
    sums.days++
    for (const [at, real] of calls.entries()) {
      const [week, ...others] = before.map(one => one![at] ?? 0)
      const four = sumOf([week!, ...others]) / 4
      if (real + four + expected[at]!.mean < 0.01) continue
      sums.halfHours++
      sums.ours += Math.abs(expected[at]!.mean - real)
      sums.lastWeek += Math.abs(week! - real)
      sums.fourWeeks += Math.abs(four - real)
    }
  }
  if (sums.halfHours === 0) return null
  const { days, halfHours } = sums
  return { days, halfHours, ours: sums.ours / halfHours, lastWeek: sums.lastWeek / halfHours, fourWeeks: sums.fourWeeks / halfHours }
}
