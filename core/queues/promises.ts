import type { Call, DeviceId, ExchangeState } from '../calls/model'
import { connectionOf, isConversation, othersOf } from '../calls/questions'
import { stretchOf } from '../calls/stretches'
import { deadlineOf } from '../calls/timers'

/** How long callers are promised to wait at most, in milliseconds, where no line says otherwise. */
export const promises = { direct: 15_000, recall: 10_000, hold: 60_000 } as const

/** `outside`: two parties talk outside and can be taken back. */
export type Waiting = 'answer' | 'recall' | 'hold' | 'transfer' | 'outside' | 'reply' | 'none'

/** What a call waits for, since when, and by when that was promised (null: nothing was). */
export interface Due {
  waiting: Waiting
  since: number
  /** Milliseconds from `since`. */
  promise: number | null
}

/**
 * What a call on an operator's track is waiting for.
 * @param linePromise milliseconds within which a call on its line is to be answered
 */
export function dueOf(state: ExchangeState, call: Call, device: DeviceId, linePromise: number | null): Due {
  const stretch = stretchOf(state, call, device)
  if (stretch === 'arriving') {
    if (call.recall) return { waiting: 'recall', since: call.recall.at, promise: promises.recall }
    return { waiting: 'answer', since: call.created, promise: linePromise ?? promises.direct }
  }
  if (stretch === 'passedOn' && !call.passing) return { waiting: 'outside', since: call.watched!.at, promise: null }
  if (stretch === 'passedOn') {
    const { at } = call.passing!
    return { waiting: 'transfer', since: at, promise: (deadlineOf(state, call) ?? at + state.company.settings.transferRecall) - at }
  }
  const own = connectionOf(call, device)
  // Who leaves a conference on hold keeps nobody waiting: the others talk on.
  if (own?.state === 'held') return { waiting: 'hold', since: own.since, promise: isConversation(call) ? null : promises.hold }
  if (own && !isConversation(call)) return { waiting: 'reply', since: call.failed?.at ?? othersOf(call, device)[0]?.since ?? own.since, promise: null }
  const talking = othersOf(call, device)[0]
  return { waiting: 'none', since: Math.max(own?.since ?? call.created, talking?.since ?? 0), promise: null }
}

/** The part of the promise that is used up: over 1 it is broken. 0 when nothing was promised. */
export function urgency(due: Pick<Due, 'since' | 'promise'> & Partial<Due>, now: number): number {
  return due.promise === null ? 0 : Math.max(0, now - due.since) / due.promise
}
