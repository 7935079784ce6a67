import { phrase, type Phrase } from '../../words/phrase'
import type { DeviceId, ExchangeState } from '../calls/model'
import { lookUp } from '../company/lookups'

/** How a queue moves. Times are milliseconds. */
export interface Pace {
  /** Average length of a call, with what its member has to do after it; undefined before the first one has ended. */
  handling: number | undefined
  /** Members who serve at present, on a call or not. */
  serving: number
  /** How long callers wait on average before they give up; null: for ever. */
  patience: number | null
}

/** How a queue moves, by what has been seen of it. */
export function paceOf(state: ExchangeState, queue: DeviceId, serving: number): Pace {
  const handling = state.handling.get(queue)
  const { waited = 0, gaveUp = 0 } = state.patience.get(queue) ?? {}
  return {
    serving,
    handling: handling === undefined ? undefined : handling + (lookUp(state.company.groups, queue)?.wrapUp ?? 0),
    patience: gaveUp > 0 ? waited / gaveUp : null,
  }
}

/**
 * About how long somebody waits who is at a place in a queue and stays, in milliseconds; null when nothing is known yet. While all who serve are on calls, one
 * of them ends every `handling / serving`; of those before who give up, one goes every `patience` over how many they are (a pure death process: D. Gross and
 * others, Fundamentals of Queueing Theory, 4th ed. 2008, 2.10; the same model of patience as Erlang A's).
 * @param place 1 is next
 */
export function expectedWait(place: number, { handling, serving, patience }: Pace): number | null {
  if (handling === undefined || serving === 0) return null
  const length = Math.max(handling, 1)
  let wait = 0
  for (let before = 0; before < place; before++) wait += length / (serving + length * goingFrom(before, patience))
  return Math.round(wait)
}

/** How many of so many who wait give up in a millisecond. */
function goingFrom(before: number, patience: number | null): number {
  return patience === null ? 0 : before / Math.max(patience, 1)
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

/** How long somebody waits who is at a place in a queue and stays, with its uncertainty; null when nothing is known yet. Parameters as for `expectedWait`. */
export function waitAhead(place: number, pace: Pace): WaitAhead | null {
  const mean = expectedWait(place, pace)
  if (mean === null) return null
  const phase = Math.max(pace.handling!, 1) / pace.serving
  const leaving = pace.patience === null ? 0 : phase / Math.max(pace.patience, 1)
  return {
    mean,
    low: Math.round(phase * quantile(place, leaving, 0.1)),
    high: Math.round(phase * quantile(place, leaving, 0.9)),
    within: time => moved(place, leaving, time / phase),
  }
}

/**
 * The chance that a place has come up by `time`, where one before is answered in a time of 1 and each of `k` others gives up in 1 / `leaving`: one minus
 * the chance of fewer departures than that, which are negative binomial (N. T. J. Bailey, The Elements of Stochastic Processes, 1964, 8.6: linear death with
 * emigration, read backwards), and Poisson where nobody gives up. Summed in logarithms, so that long times neither overflow nor vanish.
 */
export function moved(place: number, leaving: number, time: number): number {
  if (time <= 0) return 0
  const step = leaving === 0 ? time : -Math.expm1(-leaving * time) / leaving
  let fewer = 0
  for (let gone = 0, logOfTerm = -time; gone < place; gone++) {
    fewer += Math.exp(logOfTerm)
    logOfTerm += Math.log((1 + gone * leaving) * step / (gone + 1))
  }
  return Math.min(1, Math.max(0, 1 - fewer))
}

/** The time by which a place has come up with a chance, to a thousandth of the time in which one is answered. */
function quantile(place: number, leaving: number, chance: number): number {
  let [low, high] = [0, place]
  while (moved(place, leaving, high) < chance) high *= 2
  while (high - low > 0.001) {
    const middle = (low + high) / 2
    if (moved(place, leaving, middle) < chance) low = middle
    else high = middle
  }
  return high
}

const minute = 60_000
const ordinals = [
  'callers.youAreFirst', 'callers.youAreSecond', 'callers.youAreThird', 'callers.youAreFourth', 'callers.youAreFifth', 'callers.youAreSixth',
  'callers.youAreSeventh', 'callers.youAreEighth', 'callers.youAreNinth', 'callers.youAreTenth',
] as const

/** What a caller hears of their place: "You are second. About 3 minutes." Ten minutes and more are said in fives: nobody knows better. */
export function tellPlace({ place, wait }: { place: number, wait: number | null }): Phrase {
  const nth = ordinals[place - 1]
  const where = nth ? phrase(nth) : phrase('callers.youAreNumber', { place })
  if (wait === null) return where
  const minutes = wait < 10 * minute ? Math.round(wait / minute) : Math.round(wait / minute / 5) * 5
  return phrase('common.andThen', {
    first: where, second: minutes < 1 ? phrase('callers.lessThanAMinute') : phrase('callers.aboutMinutes', { count: minutes }),
  })
}
