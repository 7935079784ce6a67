import type { Leg } from './legs'
import type { levelKinds } from './level-kinds'

/**
 * What is counted of callers who waited somewhere, and the service level that follows. A leg that has come back is counted as such and nowhere else: nobody
 * new was offered. Durations are milliseconds.
 */
export interface Tally {
  offered: number
  answered: number
  /** Of those, within the promise. */
  within: number
  abandoned: number
  /** Of those, sooner than counts. */
  short: number
  /** Went elsewhere from here, by somebody's hand or a rule; of those, after the promise was broken. */
  movedOn: number
  movedLate: number
  mailbox: number
  turnedAway: number
  lost: number
  /** Left, to be called back. */
  promised: number
  back: number
  /** Still waiting. */
  waiting: number
  /** How long those who were answered had waited, all together, and the longest of anybody. */
  waited: number
  longest: number
  /** How long those who gave up had waited, all together. */
  abandonedAfter: number
  /** How long the conversations were, all together, and for how long of it callers were on hold; and how many have ended. */
  talked: number
  held: number
  conversations: number
}

/**
 * How the service level is counted. `offered`: of all who were offered and did not give up at once, those answered within the promise; whoever moved
 * on, left a message, left to be called back or was turned away before the promise was broken is not counted, later they count as not answered. `answered`:
 * of those who were
 * answered alone: whoever gave up does not spoil it. Both are usual (G. Koole, Call Center Optimization, 2013).
 */
export interface LevelRule {
  kind: typeof levelKinds[number]
  /** Whoever gives up within this time counts as if they had never called, in milliseconds. */
  shortAbandon: number
}

/** The fields of a tally in the order in which a table keeps them. */
const fields = [
  'offered', 'answered', 'within', 'abandoned', 'short', 'movedOn', 'movedLate', 'mailbox', 'turnedAway', 'lost', 'back', 'waiting', 'waited', 'longest',
  'abandonedAfter', 'talked', 'held', 'conversations', 'promised',
] as const satisfies (keyof Tally)[]
const column = Object.fromEntries(fields.map((field, at) => [field, at])) as Record<typeof fields[number], number>
/** A tally as it is kept: its numbers in the order of its fields. */
export type Counts = number[]

export function noCounts(): Counts {
  return fields.map(() => 0)
}

/**
 * Counts a leg.
 * @param waited how long it waited, or has waited by now
 */
export function count(counts: Counts, leg: Pick<Leg, 'end' | 'back' | 'talked' | 'held'>, waited: number, promise: number, shortAbandon: number): void {
  const { end, back, talked, held } = leg
  if (end === 'answered' && talked !== null) {
    counts[column.talked]! += talked
    counts[column.held]! += held
    counts[column.conversations]!++
  }
  if (back) {
    counts[column.back]!++
    return
  }
  counts[column.offered]!++
  if (waited > counts[column.longest]!) counts[column.longest] = waited
  if (end === 'answered') {
    counts[column.waited]! += waited
    if (waited <= promise) counts[column.within]!++
  }
  else if (end === 'abandoned') {
    counts[column.abandonedAfter]! += waited
    if (waited < shortAbandon) counts[column.short]!++
  }
  else if (waited > promise && end !== 'lost' && end !== 'waiting') counts[column.movedLate]!++
  counts[column[end === 'failed' ? 'movedOn' : end]]!++
}

/** Adds what was counted elsewhere. */
export function addCounts(to: Counts, from: readonly number[]): void {
  for (let at = 0; at < to.length; at++) to[at] = at === column.longest ? Math.max(to[at]!, from[at] ?? 0) : to[at]! + (from[at] ?? 0)
}

export function tallyOf(counts: readonly number[]): Tally {
  return Object.fromEntries(fields.map((field, at) => [field, counts[at] ?? 0])) as unknown as Tally
}

/** A tally of which only some is known. */
export function tallyFrom(known: Partial<Tally>): Tally {
  return { ...tallyOf([]), ...known }
}

/** The service level, from 0 to 1; null when there is nobody whom it could be counted of. */
export function serviceLevel({ answered, within, abandoned, short, movedLate }: Tally, { kind }: LevelRule): number | null {
  const of = kind === 'answered' ? answered : answered + abandoned - short + movedLate
  return of === 0 ? null : within / of
}

/** The mean wait of those who were answered, and the mean length of a conversation, in milliseconds; null when there were none. */
export function meanWait({ answered, waited }: Tally): number | null {
  return answered === 0 ? null : waited / answered
}
export function meanTalk({ conversations, talked }: Tally): number | null {
  return conversations === 0 ? null : talked / conversations
}
