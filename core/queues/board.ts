import type { Call, DeviceId, ExchangeState } from '../calls/model'
import { isOpen } from './openings'
import { urgency } from './promises'
import { queueOf } from '../calls/questions'
import { waitingIn } from './turns'
import { memberPlace, type MemberPlace } from './serving'

/** What is to be seen of a queue at a glance. Times are the exchange's, in milliseconds. */
export interface QueueBoard {
  id: DeviceId
  name: string
  /** Who waits, in the order in which they are served. */
  waiting: { call: Call, since: number }[]
  /** Since when whoever has waited longest waits; null: nobody does. */
  since: number | null
  /** Whether callers may be sent there. */
  open: boolean
  /** Within which a call is promised an answer. */
  promise: number
  /** How many of its members can take a call now, are on one, serve it not for the time being, or can't take any. */
  serving: Record<MemberPlace, number>
  /** The operator is one of its members. */
  own: boolean
}

/** Every queue but the operators' own, which is their track: those that the operator serves first, then in the company's order. */
export function boardsOf(state: ExchangeState, device: DeviceId | null) {
  const { groups, settings } = state.company
  const boards = Object.values(groups)
    .filter(({ id, distribution }) => distribution === 'queue' && id !== settings.operators)
    .map(({ id, name, members, promise }): QueueBoard => {
      const serving = { free: 0, busy: 0, paused: 0, away: 0 }
      const waiting = waitingIn(state, id).map(call => ({ call, since: queueOf(call)!.since }))
      for (const member of members) serving[memberPlace(state, id, member)]++
      return {
        id, name, promise, waiting,
        since: waiting.length > 0 ? Math.min(...waiting.map(({ since }) => since)) : null,
        open: isOpen(state, id),
        serving,
        own: device !== null && members.includes(device),
      }
    })
  return boards.sort((a, b) => Number(b.own) - Number(a.own))
}

/** How much of the promise the longest wait has used up: over 1 it is broken; 0 while nobody waits. */
export function usedOf({ since, promise }: Pick<QueueBoard, 'since' | 'promise'>, now: number): number {
  return since === null ? 0 : urgency({ since, promise: promise || null }, now)
}

/** Nobody is there who could answer: whoever is sent there goes on at once. */
export function isDeserted({ serving }: Pick<QueueBoard, 'serving'>): boolean {
  return serving.free + serving.busy === 0
}
