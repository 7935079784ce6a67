import { phrase } from '../../../words/phrase'
import { accept, nameOf, refuse } from '../answers'
import { type FieldsOf, idOf, ofCall } from '../fields'
import { isMailbox } from '../names'
import { handable, withYou } from './passing'
import { connectionOf, othersOf } from '../questions'
import type { Service } from '../service'

const fields = () => ofCall().shape({ consultation: idOf('consultation', 'call') })

declare module '../model' {
  interface Requests { transferCall: FieldsOf<typeof fields> }
}

/** Completes a consultation: the colleague takes the operator's place. While it still rings, it becomes a transfer that is watched like any other. */
export const transferCall: Service<'transferCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, call, own, request }) {
    const consultation = state.calls.get(request.consultation)
    const caller = handable(call, own)
    if ('refusal' in caller) return caller
    const asking = consultation && connectionOf(consultation, own.device)
    if (!consultation || !asking) return refuse('unknownCall', phrase('refusals.theColleagueHasHungUp', { withYou }))
    if (consultation.id === call.id || (consultation.consultation !== call.id && consultation.calling !== own.device)) {
      return refuse('notPossibleNow', phrase('refusals.thatIsAnotherCallerNot', { withYou }))
    }
    const others = othersOf(consultation, own.device)
    const colleague = others[0]
    // Several ring where a group is asked, or somebody whose mobile rings along: whoever answers has the caller.
    const severalRing = others.length > 1 && others.every(({ state: its, invitedBy }) => its === 'alerting' && !invitedBy)
    if ((others.length !== 1 && !severalRing) || !colleague || isMailbox(colleague.device) || !['connected', 'held', 'alerting'].includes(colleague.state)) {
      return refuse('notPossibleNow', phrase('refusals.cantBeReached', {
        more: colleague ? nameOf(state, colleague.device) : phrase('refusals.theColleague'), withYou,
      }))
    }
    if (colleague.state === 'held')
      return refuse('notPossibleNow', phrase('refusals.hasPutYouOnHold', { name: nameOf(state, colleague.device), withYou }))
    if (connectionOf(call, colleague.device)) return refuse('toCaller', phrase('refusals.isTheCaller', { name: nameOf(state, colleague.device), withYou }))
    const to = severalRing ? consultation.hunting?.group ?? colleague.device : colleague.device
    return accept({ type: 'transferred', call: call.id, device: own.device, to, joined: consultation.id })
  },
}
