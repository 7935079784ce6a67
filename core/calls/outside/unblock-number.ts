import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { formatNumber, readCaller } from '../../numbers/dialled'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { destination, device, type FieldsOf } from '../fields'
import type { Service } from '../service'

const fields = () => object({ device: device(), number: destination('number') })

declare module '../model' {
  interface Requests { unblockNumber: FieldsOf<typeof fields> }
  interface Events {
    numberUnblocked: AtPlace & { number: string }
  }
}

export const unblockNumber: Service<'unblockNumber'> = {
  fields,
  askedBy: ['console'],
  decide({ state, telephone, request }) {
    if (!state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsMayLiftA'))
    const number = readCaller(request.number, state.company.settings)
    if (!state.blocked.get(number)) return refuse('notPossibleNow', phrase('refusals.isNotBlocked', { number: formatNumber(number, state.company.settings) }))
    return accept({ type: 'numberUnblocked', device: telephone.id, number })
  },
}

export const numberUnblocked: EventKind<'numberUnblocked'> = {
  evolve: (state, next, { number }) => ({ ...next, blocked: state.blocked.delete(number) }),
  redact: ({ seq, at }) => ({ type: 'concealed', seq, at }),
}
