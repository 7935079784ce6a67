import type { Call, CallBack, DeviceId, ExchangeState } from '../calls/model'
import { callsOf, queueOf } from '../calls/questions'

/** In which order a queue serves: whoever was put first by hand, then as they came. Who was promised a call-back has the place that was kept for them. */

/** The lower turn is served first, then the earlier time (ms of the exchange's clock). */
type Turn = Pick<CallBack, 'turn' | 'since'>

export function byTurn(one: Turn, other: Turn): number {
  return (one.turn ?? 0) - (other.turn ?? 0) || one.since - other.since
}

/** Of those that came at one moment whichever was numbered first: no order hangs on how a state has been kept. */
function byNumber({ id: one }: { id: string }, { id: other }: { id: string }): number {
  return one.length - other.length || (one < other ? -1 : one > other ? 1 : 0)
}

/** The promises of a queue, in the order in which their callers would have been served. */
export function promisedIn(state: ExchangeState, queue: DeviceId): CallBack[] {
  if (state.callBacks.isEmpty()) return []
  return [...state.callBacks.values()].filter(promise => promise.queue === queue).sort((a, b) => byTurn(a, b) || byNumber(a, b))
}

/** Who waits in a queue, in the order in which they came. */
export function arrivedIn(state: ExchangeState, queue: DeviceId): Call[] {
  return callsOf(state, queue).filter(call => queueOf(call)?.device === queue).sort((a, b) => queueOf(a)!.since - queueOf(b)!.since || byNumber(a, b))
}

/** True when the number that reaches the caller of a promise is in this call. */
export function isWith({ party: { number } }: Pick<CallBack, 'party'>, call: Call): boolean {
  return number !== null && call.connections.some(({ party }) => party?.number === number)
}

/** Whoever calls again has the place that was kept for their number, unless they were given another by hand. */
function turnOf(call: Call, promised: readonly CallBack[]): Turn {
  const own = { turn: call.turn, since: queueOf(call)!.since }
  if (promised.length === 0) return own
  const kept = call.turn === undefined ? promised.find(promise => isWith(promise, call)) : undefined
  return kept && byTurn(kept, own) < 0 ? { turn: kept.turn, since: kept.since } : own
}

/** Who waits in a queue, in the order in which they are served. */
export function waitingIn(state: ExchangeState, queue: DeviceId): Call[] {
  return inTheirTurn(state, queue).flatMap(({ call }) => call ?? [])
}

/** Who waits in a queue, and who is to be called back, in the order in which they are served. */
export function inTheirTurn(state: ExchangeState, queue: DeviceId): (Turn & { call?: Call, promise?: CallBack })[] {
  const promised = promisedIn(state, queue)
  const waiting = arrivedIn(state, queue).map(call => ({ ...turnOf(call, promised), call }))
  return [...waiting, ...promised.map(promise => ({ turn: promise.turn, since: promise.since, promise }))].sort(byTurn)
}
