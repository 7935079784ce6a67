import { expectedWait, paceOf } from './expected-wait'
import { serves } from './serving'
import type { EventKind } from '../calls/event'
import type { Call, CallEvent, ExchangeState } from '../calls/model'
import { queueOf } from '../calls/questions'
import { waitingIn } from './turns'

/** Whoever waits in a queue hears where they stand. */

declare module '../calls/model' {
  interface Events {
    /** `place`: 1 is next. `wait`: about so many milliseconds; null: nobody can say yet. */
    queueAnnounced: OfCall & { place: number, wait: number | null }
  }
}

export function told(state: ExchangeState, call: Call): CallEvent {
  const queue = queueOf(call)!.device
  const place = waitingIn(state, queue).indexOf(call) + 1
  const members = state.company.groups[queue]?.members ?? []
  const serving = members.filter(member => serves(state, call, member)).length
  return { type: 'queueAnnounced', call: call.id, device: queue, place, wait: expectedWait(place, paceOf(state, queue, serving)) }
}

export const queueAnnounced: EventKind<'queueAnnounced'> = {
  change: (call, { place, wait, at }) => ({ ...call, told: { place, wait, at } }),
}
