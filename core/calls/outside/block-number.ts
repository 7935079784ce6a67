import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { lineWithNumber } from '../../company/lookups'
import { readDialled } from '../../numbers/dialled'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { destination, device, type FieldsOf, idOf, text } from '../fields'
import type { Service } from '../service'
import { plainText } from '../text'

const longestReason = 80
const fields = () => object({ device: device(), number: destination('number'), reason: text('reason') })

const restoreFields = () => object({ number: text('number', 40), reason: text('reason', longestReason), by: idOf('by', 'device') })

declare module '../model' {
  interface Requests {
    blockNumber: FieldsOf<typeof fields>
    restoreBlock: FieldsOf<typeof restoreFields>
  }
  interface Events {
    numberBlocked: AtPlace & { number: string, reason: string }
  }
}

/** Calls from a number are not taken any more. */
export const blockNumber: Service<'blockNumber'> = {
  fields,
  askedBy: ['console'],
  decide({ state, telephone, request: { number, reason } }) {
    const dialled = readDialled(number, state.company.settings)
    if (dialled.kind !== 'outside') return refuse('invalidNumber', dialled.kind === 'invalid' ? dialled.why : phrase('refusals.onlyOutsideNumbersCanBe'))
    const why = plainText(reason, longestReason)
    if (!why) return refuse('notPossibleNow', phrase('refusals.sayWhyTheNumberIs'))
    if (!state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsMayBlockNumbers'))
    if (lineWithNumber(state.company, dialled.e164)) return refuse('notPossibleNow', phrase('refusals.thatIsANumberOfOurs'))
    return accept({ type: 'numberBlocked', device: telephone.id, number: dialled.e164, reason: why })
  },
}

/** A block that an earlier run of the exchange knew, whether or not whoever asked for it is still here. */
export const restoreBlock: Service<'restoreBlock'> = {
  fields: restoreFields,
  askedBy: [],
  decide: ({ state, request: { number, reason, by } }) => state.blocked.has(number) ? accept() : accept({ type: 'numberBlocked', device: by, number, reason }),
}

export const numberBlocked: EventKind<'numberBlocked'> = {
  evolve: (state, next, { number, reason, device, at }) => ({ ...next, blocked: state.blocked.set(number, { reason, by: device, at }) }),
  redact: ({ seq, at }) => ({ type: 'concealed', seq, at }),
  redactState: state => ({ ...state, blocked: state.blocked.clear() }),
}
