/**
 * Erlang's formulas: how many people or channels so many calls need. Loads are in erlangs: calls in a time × their mean length in the same time. All are
 * worked out by recursions of which no term overflows or vanishes, so that loads of many thousands come out as well as small ones.
 */

/**
 * Erlang B: the chance that all of so many channels are in use, when calls that find none are lost. Recursion over the channels in its inverse (A. A. Jagerman,
 * Some properties of the Erlang loss function, Bell System Technical Journal 53, 1974).
 * @param channels whole, 0 or more; @param load in erlangs, 0 or more
 */
export function erlangB(channels: number, load: number): number {
  if (load === 0) return channels === 0 ? 1 : 0
  let inverse = 1
  for (let at = 1; at <= channels; at++) inverse = 1 + inverse * at / load
  return 1 / inverse
}

/** How many channels lose no more than a share of the calls. */
export function channelsFor(load: number, lost: number): number {
  let [channels, inverse] = [0, 1]
  while (1 / inverse > lost && load > 0) inverse = 1 + inverse * ++channels / load
  return channels
}

/** What callers and those who serve them meet, in the long run. Times in the unit of the mean length. */
export interface Service {
  /** The chance to wait at all. */
  waits: number
  meanWait: number
  /** The share who give up. */
  abandons: number
  /** The share of their time for which those who serve are on calls. */
  occupancy: number
  /** The chance to be answered within a time. */
  within: (time: number) => number
}

/**
 * Erlang C: so many serve, calls come at random (Poisson) and last at random (exponentially), all wait as long as it takes (D. Gross and others, Fundamentals
 * of Queueing Theory, 4th ed. 2008, 2.3). Nobody is answered in the end by too few.
 * @param servers whole; @param load in erlangs; times are multiples of the mean length
 */
export function erlangC(servers: number, load: number): Service {
  if (load === 0) return { waits: 0, meanWait: 0, abandons: 0, occupancy: 0, within: () => 1 }
  if (servers <= load) return { waits: 1, meanWait: Infinity, abandons: 0, occupancy: 1, within: () => 0 }
  const blocked = erlangB(servers, load)
  const waits = servers * blocked / (servers - load * (1 - blocked))
  return {
    waits, meanWait: waits / (servers - load), abandons: 0, occupancy: load / servers,
    within: time => time < 0 ? 0 : 1 - waits * Math.exp(-(servers - load) * time),
  }
}

/**
 * Erlang A: as Erlang C, but whoever waits gives up at random after `patience` on average (C. Palm 1946; O. Garnett, A. Mandelbaum, M. Reiman, Designing a Call
 * Center with Impatient Customers, Manufacturing & Service Operations Management 4, 2002). A birth and death process: with `n` in the house calls come at
 * `load` and leave at min(n, servers) + waiting / patience. The wait of somebody who finds so many before them is worked out state by state.
 * @param patience mean time until somebody gives up; times are multiples of the mean length of a call
 */
export function erlangA(servers: number, load: number, patience: number): Service {
  if (load === 0) return { waits: 0, meanWait: 0, abandons: 0, occupancy: 0, within: () => 1 }
  const leave = 1 / patience
  // Chances relative to the likeliest state, from which they fall on both sides: none overflows, and those too small to count are left out.
  const likeliest = Math.max(0, Math.ceil((load - servers) / leave))
  const first: number[] = []
  for (let queue = likeliest, term = 1; queue > 0 && term > tooSmall; queue--) first.push(term *= (servers + queue * leave) / load)
  const least = likeliest - first.length
  const waiting = [...first.reverse(), 1]
  for (let queue = likeliest + 1, term = 1; term > tooSmall; queue++) waiting.push(term *= load / (servers + queue * leave))
  // That nobody waits counts where it is near enough to the likeliest state.
  let fewer = 0
  if (least === 0) for (let n = servers, term = waiting[0]!; n > 0 && term > 0; n--) fewer += term *= n / load
  const all = fewer + waiting.reduce((sum, term) => sum + term, 0)
  const chances = waiting.map(term => term / all)
  const waits = chances.reduce((sum, chance) => sum + chance, 0)
  const queued = chances.reduce((sum, chance, index) => sum + chance * (least + index), 0)
  const abandons = Math.min(1, queued * leave / load)
  return {
    waits, abandons,
    meanWait: queued / load,
    occupancy: servers === 0 ? 0 : Math.min(1, load * (1 - abandons) / servers),
    within: time => 1 - waits + answeredWithin(chances, least, servers, leave, time),
  }
}

/** Against the likeliest state, in the middle of a sum that it dominates. */
const tooSmall = 1e-17
/** Multiplications after which the exact way is left for one that costs no more the more there are. */
const mostSteps = 5_000_000

/** @param least how many wait in the first of the states */
function answeredWithin(chances: readonly number[], least: number, servers: number, leave: number, time: number): number {
  if (time < 0 || servers === 0) return 0
  const longest = least + chances.length
  return longest * (servers + longest * leave) * time > mostSteps
    ? answeredAbout(chances, least, servers, leave, time)
    : answeredExactly([...Array.from({ length: least }, () => 0), ...chances], servers, leave, time)
}

/**
 * The same for very many: the time until an answer is a sum of so many exponential stages that it is nearly gamma distributed with their mean and variance;
 * that nobody gives up meanwhile tilts that distribution (E[exp(-aT); T ≤ t] of a gamma one is a gamma one again), and its chances are those of E. B. Wilson
 * and M. M. Hilferty (The distribution of chi-square, 1931).
 */
function answeredAbout(chances: readonly number[], least: number, servers: number, leave: number, time: number): number {
  let [mean, variance, answered] = [0, 0, 0]
  for (let before = 0; before < least + chances.length; before++) {
    const stage = 1 / (servers + before * leave)
    mean += stage
    variance += stage * stage
    if (before < least) continue
    const chance = chances[before - least]!
    const [shape, scale] = [mean * mean / variance, variance / mean]
    const tilted = scale / (1 + leave * scale)
    const deviation = (Math.cbrt(time / (shape * tilted)) - 1 + 1 / (9 * shape)) * 3 * Math.sqrt(shape)
    answered += chance * Math.exp(-shape * Math.log1p(leave * scale)) * normal(deviation)
  }
  return answered
}

/** The chance of a standard normal value below this one (M. Abramowitz, I. A. Stegun, Handbook of Mathematical Functions, 26.2.17; error below 7.5e-8). */
function normal(value: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(value))
  const tail = Math.exp(-value * value / 2) / Math.sqrt(2 * Math.PI)
    * t * (0.319381530 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
  return value < 0 ? tail : 1 - tail
}

/**
 * The chance to wait and be answered within a time. Whoever comes when `before` wait is answered after the `before` + 1 next departures from a house that
 * is full; while `k` wait before them one departs at `servers` + `k` / patience, and they give up meanwhile at 1 / patience. So the stages before an answer
 * are exponential, and the time in them is followed by uniformization (A. Jensen, 1953): a Poisson number of steps, each of which may be a stage, an
 * abandonment or nothing.
 */
function answeredExactly(chances: readonly number[], servers: number, leave: number, time: number): number {
  const longest = chances.length
  const rate = servers + longest * leave
  const steps = rate * time
  // How the chances stand over the number of departures still to come; index 0 is answered.
  let stages = new Float64Array(longest + 1)
  for (let before = 0; before < longest; before++) stages[before + 1] = chances[before]!
  let answered = 0
  let logOfChance = -steps
  let seen = 0
  for (let step = 0; seen < 1 - 1e-10 && step < steps + 12 * Math.sqrt(steps) + 40; step++) {
    const chance = Math.exp(logOfChance)
    answered += chance * stages[0]!
    seen += chance
    logOfChance += Math.log(steps / (step + 1))
    const next = new Float64Array(longest + 1)
    next[0] = stages[0]!
    for (let at = 1; at <= longest; at++) {
      const departs = (servers + (at - 1) * leave) / rate
      next[at - 1]! += stages[at]! * departs
      next[at]! += stages[at]! * Math.max(0, 1 - departs - leave / rate)
    }
    stages = next
  }
  return answered + Math.max(0, 1 - seen) * stages[0]!
}

export interface Demand {
  /** Calls in an hour, and how long each lasts on average with what follows it, in milliseconds. */
  calls: number
  length: number
  /** How long somebody waits on average before they give up, in milliseconds; null: for ever. */
  patience: number | null
}

const hour = 60 * 60_000

export function loadOf({ calls, length }: Demand): number {
  return calls * length / hour
}

/** How it goes when so many serve. `within` and the mean wait in milliseconds. */
export function serviceOf(demand: Demand, servers: number): Service {
  const { length, patience } = demand
  if (length === 0 || demand.calls === 0) return erlangC(servers, 0)
  const service = patience === null ? erlangC(servers, loadOf(demand)) : erlangA(servers, loadOf(demand), patience / length)
  return { ...service, meanWait: service.meanWait * length, within: time => service.within(time / length) }
}

/** More people than this nobody asks for. */
export const mostServers = 5_000

/** How many have to serve so that a share is answered within a time (milliseconds); null when no number will do. */
export function serversFor(demand: Demand, promise: number, level: number): number | null {
  if (loadOf(demand) === 0) return 0
  const enough = (servers: number) => serviceOf(demand, servers).within(promise) >= level
  let high = 1
  let low = 0
  while (!enough(high)) {
    if (high === mostServers) return null
    low = high
    high = Math.min(high * 2, mostServers)
  }
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (enough(middle)) high = middle
    else low = middle
  }
  return high
}
