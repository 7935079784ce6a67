import { phrase } from '../../../words/phrase'
import { accept, ownerSentence, refuse } from '../answers'
import { type FieldsOf, ofCall as fields } from '../fields'
import { isOutside } from '../questions'
import type { Service } from '../service'

declare module '../model' {
  interface Requests { clearCall: FieldsOf<typeof fields> }
}

/** Ends a conference that one leads for everybody; or, by an operator or whoever watches it, a call between two parties outside. */
export const clearCall: Service<'clearCall'> = {
  fields,
  askedBy: ['console'],
  may({ state, call, part, operator, request }) {
    if (isOutside(call)) return operator || part === 'watching' ? null : refuse('notAllowed', phrase('refusals.onlyOperatorsMayEndA'))
    if (part !== 'member') return refuse('notYourCall', ownerSentence(state, call))
    return call.conference?.by === request.device ? null : refuse('notAllowed', phrase('refusals.onlyWhoLeadsTheConference'))
  },
  decide: ({ call, request }) => accept({ type: 'callCleared', call: call.id, device: request.device, cause: 'normalClearing' }),
}
