import { serves } from '../queues/serving'
import type { Call, DeviceId, ExchangeState } from './model'
import { connectionOf, mayAnswerFromQueue } from './questions'

/** The three stretches of an operator's track; a parked call stands in its slot, before everybody. */
export type Stretch = 'arriving' | 'inHand' | 'passedOn'

/**
 * Where a call stands on one operator's track, or null when it is not on it.
 * A call stands in one stretch at most.
 */
export function stretchOf(state: ExchangeState, call: Call, device: DeviceId): Stretch | null {
  const own = connectionOf(call, device)
  if (own?.state === 'alerting') return 'arriving'
  if (own) return 'inHand'
  if (call.passing?.by === device || call.watched?.by === device) return 'passedOn'
  if (mayAnswerFromQueue(state, call, device) && serves(state, call, device)) return 'arriving'
  return null
}
