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
/** So many calls of a weekday weigh as much as what all days tell of when callers come. */
const ownShape = 150
/** Of a day that is under way: so many expected calls weigh as much as what was seen (a gamma prior for the pace of the day). */
const prior = 25
/** The variance between days, in squares of the mean, when there are too few days to see it. */
const unknownSpread = 0.2
/** How much of a level the latest day may be. What would have foretold the days so far best is taken. */
const paces = [0.03, 0.06, 0.12, 0.25, 0.5]

const weekdayOf = (local: number) => new Date(local).getUTCDay()
const sumOf = (list: readonly number[]) => list.reduce((sum, one) => sum + one, 0)

/** A past day on which they were open. `weight`: how much it counts. */
interface Telling { local: number, calls: readonly number[], total: number, weight: number }

/** Which half-hours of a day are open by hours and holidays. */
export type OpenAt = (local: number, halfHour: number) => boolean
const alwaysOpen: OpenAt = () => true
const isShut = (local: number, open: OpenAt) => Array.from({ length: halfHours }, (_, at) => at).every(at => !open(local, at))

interface History {
  /** Every day on which they were open, oldest first. */
  days: Telling[]
  /** Those of the weekday that is foretold; all, when there are too few. */
  same: Telling[]
  known: number
  sameWeekday: boolean
}

/** What past days tell about a day; nothing, when the house is mostly closed on its weekday. A holiday that is over tells nothing. */
function historyOf(arrivals: Arrivals, local: number, open: OpenAt): History {
  const past = [...arrivals].filter(([at]) => at < local && at >= local - weeksBack * 7 * day && !isShut(at, open))
  const days = past.map(([at, calls]) => ({ local: at, calls, total: sumOf(calls), weight: fading ** ((local - at) / (7 * day)) }))
    .filter(({ total }) => total > 0).sort((a, b) => a.local - b.local)
  const sameWeekday = past.filter(([at]) => weekdayOf(at) === weekdayOf(local))
  if (sameWeekday.length < fewest) return { days, same: days, known: days.length, sameWeekday: false }
  const same = days.filter(({ local: at }) => weekdayOf(at) === weekdayOf(local))
  if (same.length < sameWeekday.length / 2) return { days: [], same: [], known: sameWeekday.length, sameWeekday: true }
  return { days, same, known: same.length, sameWeekday: true }
}

/** How many calls a weekday brings against the days around it. */
function weekdays(days: readonly Telling[]): (local: number) => number {
  const seen = Array.from({ length: 7 }, () => ({ count: 0, sum: 0, weight: 0 }))
  for (const { local, total, weight } of days) {
    const around = days.filter(other => Math.abs(other.local - local) < 4 * day)
    const one = seen[weekdayOf(local)]!
    one.count++
    one.sum += weight * total * around.length / sumOf(around.map(other => other.total))
    one.weight += weight
  }
  return (local) => {
    const { count, sum, weight } = seen[weekdayOf(local)]!
    return count < fewest ? 1 : sum / weight
  }
}

/** How many calls an ordinary day brings, before each of the days and after the last, as it was known then (R. G. Brown's simple exponential smoothing). */
function levels(ordinary: readonly number[]): number[] {
  const burnIn = Math.min(5, ordinary.length)
  const first = sumOf(ordinary.slice(0, burnIn)) / burnIn
  const tried = paces.map((pace) => {
    const known = [first]
    let off = 0
    for (const [at, real] of ordinary.entries()) {
      if (at >= burnIn) off += (real - known[at]!) ** 2
      known.push(known[at]! + pace * (real - known[at]!))
    }
    return { known, off }
  })
  return tried.reduce((best, one) => one.off < best.off ? one : best).known
}

/** When on a day callers come: the share of each half-hour, a little smoothed. */
function shapeOf({ days, same }: History): number[] {
  const shares = (list: readonly Telling[]) => {
    const all = sumOf(list.map(({ total, weight }) => weight * total))
    return { all, of: Array.from({ length: halfHours }, (_, at) => sumOf(list.map(({ calls, weight }) => weight * (calls[at] ?? 0))) / all) }
  }
  const [own, common] = [shares(same), shares(days)]
  // A half-hour in which nobody ever called on this weekday is one in which they are closed: it gets nothing from others, and lends nothing.
  const raw = own.of.map((share, at) => share === 0 ? 0 : (own.all * share + ownShape * common.of[at]!) / (own.all + ownShape))
  const smooth = raw.map((share, at) => {
    const neighbours = [raw[at - 1], raw[at + 1]].filter((one): one is number => one !== undefined && one > 0)
    return share === 0 || neighbours.length === 0 ? share : (1 - lent) * share + lent * sumOf(neighbours) / neighbours.length
  })
  const all = sumOf(smooth)
  return smooth.map(share => share / all)
}

/**
 * The level of the days so far, times what the weekday has of it, times the share of each half-hour: a house that has grown is foretold as it is now.
 * @param local the day; @param seen calls of this day so far, by half-hour; only those before `now` (a half-hour of the day) are over
 * @param open nothing is foretold where they are closed
 */
export function forecast(arrivals: Arrivals, local: number, { seen = [], now = 0, open = alwaysOpen }: {
  seen?: readonly number[]
  now?: number
  open?: OpenAt
} = {}): Forecast {
  const history = historyOf(arrivals, local, open)
  const { days, known, sameWeekday } = history
  if (days.length === 0) return { halfHours: Array.from({ length: halfHours }, () => ({ mean: 0, low: 0, high: 0 })), days: known, sameWeekday }
  const weekday = sameWeekday ? weekdays(days) : () => 1
  const level = levels(days.map(one => one.total / weekday(one.local)))
  const shape = shapeOf(history)
  const means = shape.map(share => level[days.length]! * weekday(local) * share)
  const foretold = history.same.map(one => ({ ...one, mean: level[days.indexOf(one)]! * weekday(one.local) }))
  const spread = spreadOf(foretold, shape)
  const [expectedSoFar, seenSoFar] = [sumOf(means.slice(0, now)), sumOf(seen.slice(0, now))]
  const pace = (seenSoFar + prior) / (expectedSoFar + prior)
  return { halfHours: means.map((mean, at) => interval(open(local, at) ? mean * pace : 0, spread)), days: known, sameWeekday }
}

/**
 * How much days differ beyond chance from what would have been foretold: calls come at random (Poisson) around a mean that differs from day to day, so the
 * variance is the mean and this times its square: a negative binomial, by its moments.
 */
function spreadOf(days: readonly (Telling & { mean: number })[], shape: readonly number[]): number {
  if (days.length < fewest) return unknownSpread
  let [beyond, squares] = [0, 0]
  for (const { calls, mean, weight } of days) {
    for (const [at, share] of shape.entries()) {
      const foretold = mean * share
      beyond += weight * (((calls[at] ?? 0) - foretold) ** 2 - foretold)
      squares += weight * foretold ** 2
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

/**
 * How far off forecasts of past days would have been, in calls a half-hour, beside two simple ways to foretell: roots of mean squares, of which alone a mean is
 * the best forecast (T. Gneiting, Making and evaluating point forecasts, Journal of the American Statistical Association 106, 2011; of absolute errors it is
 * the median, which is 0 where few call).
 */
export interface LookedBack { ours: number, lastWeek: number, fourWeeks: number, days: number, halfHours: number }

/**
 * Foretells each of the latest days (so many weeks of them) from those before it alone, and counts the error over the half-hours in which anybody called or
 * might have; null when there is too little to look back on.
 */
export function lookBack(arrivals: Arrivals, { weeks = 4, open = alwaysOpen }: { weeks?: number, open?: OpenAt } = {}): LookedBack | null {
  const last = Math.max(...arrivals.keys())
  const squares = { ours: 0, lastWeek: 0, fourWeeks: 0 }
  let [days, counted] = [0, 0]
  for (const [local, calls] of arrivals) {
    const before = [1, 2, 3, 4].map(week => arrivals.get(local - week * 7 * day))
    if (local <= last - weeks * 7 * day || sumOf(calls) === 0 || before.some(one => !one)) continue
    const { halfHours: expected } = forecast(arrivals, local, { open })
    days++
    for (const [at, real] of calls.entries()) {
      const [week, ...others] = before.map(one => one![at] ?? 0)
      const four = sumOf([week!, ...others]) / 4
      if (real + four + expected[at]!.mean < 0.01) continue
      counted++
      squares.ours += (expected[at]!.mean - real) ** 2
      squares.lastWeek += (week! - real) ** 2
      squares.fourWeeks += (four - real) ** 2
    }
  }
  if (counted === 0) return null
  const off = (sum: number) => Math.sqrt(sum / counted)
  return { days, halfHours: counted, ours: off(squares.ours), lastWeek: off(squares.lastWeek), fourWeeks: off(squares.fourWeeks) }
}
