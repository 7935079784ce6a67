import { phrase } from '../../words/phrase'
import { boolean, object } from 'yup'
import { accept, refuse } from '../calls/answers'
import type { EventKind } from '../calls/event'
import { device, type FieldsOf } from '../calls/fields'
import { withAgent } from '../calls/places'
import type { Service } from '../calls/service'

const fields = () => object({ device: device(), attended: boolean().strict().required().label('attended') })

declare module '../calls/model' {
  interface Requests { setAgentState: FieldsOf<typeof fields> }
  interface Events {
    agentStateChanged: AtPlace & { attended: boolean, leavesAt: number | null }
  }
}

/** The console of an operator opens or closes; whoever closes it is counted as there for a moment longer. Said by the exchange of whom its servers name. */
export const setAgentState: Service<'setAgentState'> = {
  fields,
  askedBy: [],
  decide({ state, telephone, request: { attended }, now }) {
    const agent = state.agents.get(telephone.id)
    if (!agent) return refuse('notAllowed', phrase('refusals.isNotAnOperator', { name: telephone.name }))
    if (!attended && !agent.attended) return accept()
    return accept({ type: 'agentStateChanged', device: telephone.id, attended, leavesAt: attended ? null : now + state.company.settings.absence })
  },
}

export const agentStateChanged: EventKind<'agentStateChanged'> = {
  evolve: (state, next, { device, attended, leavesAt }) => withAgent(state, next, device, () => ({ attended, leavesAt })),
}
