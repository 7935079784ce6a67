import { phrase } from '../../../words/phrase'
import { accept, holdingTheRest, refuse } from '../answers'
import { type FieldsOf, ofCall as fields } from '../fields'
import { connectionOf, membersOf, talkingCallOf } from '../questions'
import type { Service } from '../service'

declare module '../model' {
  interface Requests { reconnectCall: FieldsOf<typeof fields> }
}

/** Lets go of the colleague who is being asked and takes the caller back. */
export const reconnectCall: Service<'reconnectCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, call: consultation, own }) {
    const primary = consultation.consultation ? state.calls.get(consultation.consultation) : undefined
    const waiting = primary && connectionOf(primary, own.device)
    if (!primary || !waiting || consultation.calling !== own.device)
      return refuse('notPossibleNow', phrase('refusals.theCallerHasHungUp'))
    const talking = talkingCallOf(state, own.device)
    const holding = talking && talking !== primary && talking !== consultation ? holdingTheRest(state, own.device) : []
    const goesOn = membersOf(consultation).filter(member => member.device !== own.device).length > 1
    return accept(
      ...holding,
      { type: 'connectionCleared', call: consultation.id, device: own.device, cause: 'normalClearing' },
      // What the colleague has made a conference of goes on without us.
      ...(goesOn ? [] : [{ type: 'callCleared', call: consultation.id, device: own.device, cause: 'normalClearing' } as const]),
      ...(waiting.state === 'held' ? [{ type: 'retrieved', call: primary.id, device: own.device } as const] : []),
    )
  },
}
