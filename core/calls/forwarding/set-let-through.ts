import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { lookUp } from '../../company/lookups'
import { readDialled } from '../../numbers/dialled'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { destination, device, type FieldsOf, idIfAny, on } from '../fields'
import { withDevice } from '../places'
import type { Service } from '../service'

const mostNumbers = 20

const fields = () => object({ device: device(), number: destination('number'), on: on(), of: idIfAny('of', 'device') })

declare module '../model' {
  interface Requests { setLetThrough: FieldsOf<typeof fields> }
  interface Events {
    /** `numbers`: all of them from now on. */
    letThroughChanged: AtPlace & { numbers: string[] }
  }
}

/** A number whose calls ring in spite of do not disturb: named by its owner, or by an operator on their behalf. */
export const setLetThrough: Service<'setLetThrough'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { number, on, of } }) {
    const own = of === undefined ? telephone : lookUp(state.company.telephones, of)
    if (!own) return refuse('unknownDevice', phrase('refusals.thereIsNoExtensionSentence', { of: of! }))
    if (own.id !== telephone.id && !state.agents.get(telephone.id))
      return refuse('notAllowed', phrase('refusals.onlyOperatorsMaySayFor'))
    const dialled = readDialled(number, state.company.settings)
    if (dialled.kind === 'invalid') return refuse('invalidNumber', dialled.why)
    const named = dialled.kind === 'outside' ? dialled.e164 : dialled.digits
    const before = state.devices.get(own.id)?.letThrough ?? []
    if (before.includes(named) === on) return accept()
    if (on && before.length >= mostNumbers) return refuse('notPossibleNow', phrase('refusals.numbersAtMostRingAll', { mostNumbers }))
    return accept({ type: 'letThroughChanged', device: own.id, numbers: on ? [...before, named] : before.filter(known => known !== named) })
  },
}

export const letThroughChanged: EventKind<'letThroughChanged'> = {
  evolve: (state, next, { device, numbers }) => withDevice(state, next, device, { letThrough: numbers }),
  // Whom somebody wants to be reached by is no business of who sees no callers.
  redact: event => ({ ...event, numbers: [] }),
  redactState: state => ({ ...state, devices: state.devices.map(device => device.letThrough ? { ...device, letThrough: [] } : device) }),
}
