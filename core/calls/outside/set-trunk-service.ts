import { phrase } from '../../../words/phrase'
import { number, object } from 'yup'
import { lookUp } from '../../company/lookups'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, idOf, on } from '../fields'
import type { Service } from '../service'

const fields = () => object({ device: device(), trunk: idOf('trunk', 'trunk'), on: on() })
const reportFields = () => object({ trunk: idOf('trunk', 'trunk'), faulty: number().strict().integer().min(0).max(10_000).required().label('faulty') })

declare module '../model' {
  interface Requests {
    setTrunkService: FieldsOf<typeof fields>
    reportTrunk: FieldsOf<typeof reportFields>
  }
  interface Events {
    /** `outBy`: who has taken it out of service; null: it is in service. `faulty`: so many of its channels are out of order. */
    trunkChanged: { trunk: TrunkId, outBy: DeviceId | null, faulty: number }
  }
}

/** An operator takes a trunk out of service, or puts it back: calls on it go on, nothing new comes or goes on it. */
export const setTrunkService: Service<'setTrunkService'> = {
  fields,
  askedBy: ['console'],
  decide({ state, telephone, request: { trunk, on } }) {
    if (!state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsTakeTrunksOut'))
    if (!lookUp(state.company.trunks, trunk)) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchTrunk'))
    const { outBy, faulty } = state.troubles.get(trunk) ?? { outBy: null, faulty: 0 }
    return (outBy === null) === on ? accept() : accept({ type: 'trunkChanged', trunk, outBy: on ? null : telephone.id, faulty })
  },
}

/** The network says how many channels of a trunk are out of order. */
export const reportTrunk: Service<'reportTrunk'> = {
  fields: reportFields,
  askedBy: [],
  decide({ state, request: { trunk, faulty } }) {
    const known = lookUp(state.company.trunks, trunk)
    if (!known) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchTrunk'))
    const now = state.troubles.get(trunk) ?? { outBy: null, faulty: 0 }
    const count = Math.min(Math.max(0, faulty), known.channels)
    return now.faulty === count ? accept() : accept({ type: 'trunkChanged', trunk, outBy: now.outBy, faulty: count })
  },
}

export const trunkChanged: EventKind<'trunkChanged'> = {
  evolve(state, next, { trunk, outBy, faulty, at }) {
    if (!lookUp(state.company.trunks, trunk)) return next
    const troubles = outBy === null && faulty === 0 ? state.troubles.delete(trunk) : state.troubles.set(trunk, { outBy, faulty, since: at })
    return { ...next, troubles }
  },
}
