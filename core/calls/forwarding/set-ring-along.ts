import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { lookUp } from '../../company/lookups'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, idIfAny, on } from '../fields'
import { withDevice } from '../places'
import type { Service } from '../service'

const fields = () => object({ device: device(), on: on(), of: idIfAny('of', 'device') })

declare module '../model' {
  interface Requests { setRingAlong: FieldsOf<typeof fields> }
  interface Events {
    ringAlongChanged: AtPlace & { on: boolean }
  }
}

/** Whoever's telephone rings, their mobile rings along with it: said by its owner, or by an operator on their behalf. */
export const setRingAlong: Service<'setRingAlong'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { on, of } }) {
    const own = of === undefined ? telephone : lookUp(state.company.telephones, of)
    if (!own) return refuse('unknownDevice', phrase('refusals.thereIsNoExtensionSentence', { of: of! }))
    if (own.id !== telephone.id && !state.agents.get(telephone.id))
      return refuse('notAllowed', phrase('refusals.onlyOperatorsMaySayForSomebody'))
    if (on && state.agents.get(own.id)) return refuse('notPossibleNow', phrase('refusals.anOperatorsCallsWaitForAll'))
    if (on && !lookUp(state.company.people, own.person ?? '')?.mobile)
      return refuse('notPossibleNow', phrase('refusals.noMobileOfIsKnown', { name: own.name }))
    const before = state.devices.get(own.id)?.ringsAlong ?? false
    return before === on ? accept() : accept({ type: 'ringAlongChanged', device: own.id, on })
  },
}

export const ringAlongChanged: EventKind<'ringAlongChanged'> = {
  evolve: (state, next, { device, on }) => withDevice(state, next, device, { ringsAlong: on }),
}
