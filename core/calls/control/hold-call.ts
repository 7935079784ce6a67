import { phrase } from '../../../words/phrase'
import { accept, refuse } from '../answers'
import { withState } from '../course'
import { type EventKind, told } from '../event'
import { type FieldsOf, ofCall as fields } from '../fields'
import { membersOf } from '../questions'
import type { Service } from '../service'

declare module '../model' {
  interface Requests { holdCall: FieldsOf<typeof fields> }
  interface Events {
    held: OfCall
  }
}

export const holdCall: Service<'holdCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ call, own }) {
    if (own.state !== 'connected') return refuse('notPossibleNow', phrase('refusals.onlyACallYouAre'))
    if (membersOf(call).length < 2) return refuse('notPossibleNow', phrase('refusals.nobodyHasAnsweredYetThere'))
    return accept({ type: 'held', call: call.id, device: own.device })
  },
}

export const held: EventKind<'held'> = {
  change: (call, { device, at }) => ({ ...call, connections: withState(call.connections, device, 'held', at) }),
  step: told,
}
