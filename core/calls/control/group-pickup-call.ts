import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { lookUp, pickupGroupOf } from '../../company/lookups'
import { refuse } from '../answers'
import { device, type FieldsOf, idOrNull } from '../fields'
import { callsOf, connectionOf, isOperator } from '../questions'
import { partOf } from '../rights'
import type { Service } from '../service'
import { mayPickUp, pickedUp } from './directed-pickup-call'

const fields = () => object({ device: device(), group: idOrNull('group', 'group') })

declare module '../model' {
  interface Requests { groupPickupCall: FieldsOf<typeof fields> }
}

/** Takes the call that has rung longest in a group; without one, in the own pickup group. */
export const groupPickupCall: Service<'groupPickupCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone: { id }, request }) {
    const { group } = request
    const named = group === null ? undefined : lookUp(state.company.groups, group)
    if (group !== null && !named) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchGroup'))
    const ringing = (named ? named.members : pickupGroupOf(state.company, id))
      .filter(member => member !== id)
      .flatMap(member => callsOf(state, member).map(call => ({ call, from: connectionOf(call, member)! })))
      .filter(({ call, from }) => from.state === 'alerting' && !from.invitedBy && !connectionOf(call, id))
      .filter(({ call }) => !mayPickUp({ state, call, part: partOf(state, call, id), operator: isOperator(state, id), request }))
      .sort((a, b) => a.from.since - b.from.since)
    return ringing[0] ? pickedUp(state, ringing[0].call, id) : refuse('notPossibleNow', phrase('refusals.nothingRingsThereAtThe'))
  },
}
