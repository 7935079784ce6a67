/**
 * About how long somebody waits who is at a place in a queue, in milliseconds; null when nothing is known yet.
 * While all who serve are on calls that last `handling` on average, one of `serving` ends every `handling / serving` (departures from a busy system of c
 * servers: D. Gross and others, Fundamentals of Queueing Theory, 4th ed. 2008, 2.3), and so many have to end as stand before and at that place.
 * @param place 1 is next
 * @param handling average length of a call, in milliseconds; undefined before the first one has ended
 * @param serving members who serve at present, on a call or not
 */
export function expectedWait(place: number, handling: number | undefined, serving: number): number | null {
  return handling === undefined || serving === 0 ? null : Math.round(place * handling / serving)
}

/** How sure an expected wait is. Times are milliseconds. */
export interface WaitAhead {
  mean: number
  /** One in ten waits less than `low`, one in ten longer than `high`. */
  low: number
  high: number
  /** The chance to be answered within a time, from 0 to 1. */
  within: (time: number) => number
}

/**
 * How long somebody waits who is at a place in a queue, with its uncertainty; null when nothing is known yet. While everybody is on a call and calls end at
 * random, as many have to end as stand before and at that place: the wait is Erlang distributed with as many phases (D. Gross and others, 2.3; A. O. Allen,
 * Probability, Statistics, and Queueing Theory, 2nd ed. 1990, 3.2.6). Parameters as for `expectedWait`.
 */
export function waitAhead(place: number, handling: number | undefined, serving: number): WaitAhead | null {
  const mean = expectedWait(place, handling, serving)
  if (mean === null) return null
  const phase = handling! / serving
  return {
    mean,
    low: Math.round(phase * quantile(place, 0.1)),
    high: Math.round(phase * quantile(place, 0.9)),
    within: time => phase === 0 ? 1 : erlang(place, time / phase),
  }
}

/**
 * The Erlang distribution with so many phases of length 1: the chance that all are over by `time`. One minus the chance of fewer than that many events of a
 * Poisson process, summed in logarithms, so that long times neither overflow nor vanish.
 */
export function erlang(phases: number, time: number): number {
  if (time <= 0) return 0
  let fewer = 0
  for (let events = 0, logOfTerm = -time; events < phases; logOfTerm += Math.log(time / ++events)) fewer += Math.exp(logOfTerm)
  return Math.min(1, Math.max(0, 1 - fewer))
}

/** The time by which all phases are over with a chance, to a thousandth of a phase. */
function quantile(phases: number, chance: number): number {
  let [low, high] = [0, phases]
  while (erlang(phases, high) < chance) high *= 2
  while (high - low > 0.001) {
    const middle = (low + high) / 2
    if (erlang(phases, middle) < chance) low = middle
    else high = middle
  }
  return high
}

const minute = 60_000
const ordinals = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth']

/** What a caller hears of their place: "You are second. About 3 minutes." Ten minutes and more are said in fives: nobody knows better. */
export function tellPlace({ place, wait }: { place: number, wait: number | null }): string {
  const where = `You are ${ordinals[place - 1] ?? `number ${place}`}.`
  if (wait === null) return where
  const minutes = wait < 10 * minute ? Math.round(wait / minute) : Math.round(wait / minute / 5) * 5
  return `${where} ${minutes < 1 ? 'Less than a minute.' : `About ${minutes} minute${minutes === 1 ? '' : 's'}.`}`
}
