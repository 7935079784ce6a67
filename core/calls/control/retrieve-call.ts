import { phrase } from '../../../words/phrase'
import { accept, holdingTheRest, refuse } from '../answers'
import { withState } from '../course'
import { type EventKind, told } from '../event'
import { type FieldsOf, ofCall as fields } from '../fields'
import type { Service } from '../service'

declare module '../model' {
  interface Requests { retrieveCall: FieldsOf<typeof fields> }
  interface Events {
    retrieved: OfCall
  }
}

/** Takes a call back from hold; the call one is talking on goes on hold, so that this also swaps the two. */
export const retrieveCall: Service<'retrieveCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, call, own }) {
    if (own.state !== 'held') return refuse('notPossibleNow', phrase('refusals.thatCallIsNotOn'))
    return accept(...holdingTheRest(state, own.device), { type: 'retrieved', call: call.id, device: own.device })
  },
}

export const retrieved: EventKind<'retrieved'> = {
  change: (call, { device, at }) => ({ ...call, connections: withState(call.connections, device, 'connected', at) }),
  step: told,
}
