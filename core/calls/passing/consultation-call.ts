import { phrase } from '../../../words/phrase'
import { lookUp } from '../../company/lookups'
import { refuse } from '../answers'
import { beginCall } from '../beginning'
import { destination, type FieldsOf, ofCall } from '../fields'
import { isAskedFor, membersOf } from '../questions'
import type { Service } from '../service'
import { targetOf } from '../targets'

const fields = () => ofCall().shape({ number: destination('number') })

declare module '../model' {
  interface Requests { consultationCall: FieldsOf<typeof fields> }
}

/** Asks somebody while the caller of a call waits on hold. */
export const consultationCall: Service<'consultationCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, call: primary, own, request: { number } }) {
    const device = lookUp(state.company.telephones, own.device)
    if (!device || (own.state !== 'connected' && own.state !== 'held')) return refuse('notPossibleNow', phrase('refusals.answerTheCallBeforeYou'))
    if (membersOf(primary).length < 2) return refuse('notPossibleNow', phrase('refusals.nobodyHasAnsweredYetThereIs'))
    if (isAskedFor(state, primary)) return refuse('notPossibleNow', phrase('refusals.youAreAskingSomebodyFor'))
    const target = targetOf(state, number)
    if (
      !('refusal' in target)
      && primary.connections.some(({ device: id, party }) => id === target.id || (target.kind === 'outside' && party?.number === target.number))
    ) {
      return refuse('toCaller', phrase('refusals.theyAreInThisCall'))
    }
    const decision = beginCall(state, device, number, { consultation: primary.id, except: primary.connections.map(connection => connection.device) })
    return 'refusal' in decision ? refuse(decision.refusal.code, phrase('refusals.yourCallerIsStillWith', { why: decision.refusal.why })) : decision
  },
}
