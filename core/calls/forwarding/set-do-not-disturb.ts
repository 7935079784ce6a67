import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { lookUp } from '../../company/lookups'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, idIfAny, on, until } from '../fields'
import { withDevice } from '../places'
import type { Service } from '../service'

const fields = () => object({ device: device(), on: on(), of: idIfAny('of', 'device'), until: until().optional() })

declare module '../model' {
  interface Requests { setDoNotDisturb: FieldsOf<typeof fields> }
  interface Events {
    doNotDisturb: AtPlace & { on: boolean, by: DeviceId | null, until: number | null }
  }
}

/** Do not disturb for oneself, or by an operator on behalf of a colleague, whose telephone says who set it and until when. */
export const setDoNotDisturb: Service<'setDoNotDisturb'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { on, of, until } }) {
    const target = of === undefined ? telephone : lookUp(state.company.telephones, of)
    if (!target) return refuse('unknownDevice', phrase('refusals.thereIsNoExtensionSentence', { of: of! }))
    const forOther = target.id !== telephone.id
    if (forOther && !state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsMaySetDo'))
    return accept({ type: 'doNotDisturb', device: target.id, on, by: on && forOther ? telephone.id : null, until: on ? until ?? null : null })
  },
}

export const doNotDisturb: EventKind<'doNotDisturb'> = {
  evolve: (state, next, { device, on, by, until }) => withDevice(state, next, device, { doNotDisturb: on, doNotDisturbBy: by, doNotDisturbUntil: until }),
}
