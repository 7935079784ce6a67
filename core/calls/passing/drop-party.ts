import { phrase } from '../../../words/phrase'
import { accept, ownerSentence, refuse } from '../answers'
import { type FieldsOf, idOf, ofCall } from '../fields'
import { connectionOf, membersOf } from '../questions'
import type { Service } from '../service'

const fields = () => ofCall().shape({ party: idOf('party', 'device') })

declare module '../model' {
  interface Requests { dropParty: FieldsOf<typeof fields> }
}

/** Takes one party out of a conference; the others go on. */
export const dropParty: Service<'dropParty'> = {
  fields,
  askedBy: ['console'],
  may({ state, call, part, request: { device, party } }) {
    if (part !== 'member') return refuse('notYourCall', ownerSentence(state, call))
    return call.conference?.by === device || connectionOf(call, party)?.invitedBy === device
      ? null
      : refuse('notAllowed', phrase('refusals.onlyWhoLeadsTheConferenceMayTake'))
  },
  decide({ call, own, request: { party } }) {
    const other = connectionOf(call, party)
    if (!other || party === own.device) return refuse('notPossibleNow', phrase('refusals.theyAreNotInThis'))
    if (own.state !== 'connected') return refuse('notPossibleNow', phrase('refusals.takeTheCallBackFirst'))
    if (!other.invitedBy && membersOf(call).length < 3) return refuse('notPossibleNow', phrase('refusals.onlyTheTwoOfYou'))
    return accept({ type: 'connectionCleared', call: call.id, device: party, cause: 'normalClearing' })
  },
}
