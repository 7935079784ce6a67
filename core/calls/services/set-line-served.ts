import { object } from 'yup'
import { lookUp } from '../../company/lookups'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, idOf, on, until } from '../fields'
import { withAgent } from '../places'
import type { Service } from '../service'

const fields = () => object({ device: device(), line: idOf('line', 'line'), on: on(), until: until().defined() })

declare module '../model' {
  interface Requests { setLineServed: FieldsOf<typeof fields> }
  interface Events {
    lineServed: AtPlace & { line: LineId, on: boolean, until: number | null }
  }
}

/** An operator leaves a line to the others for a while. */
export const setLineServed: Service<'setLineServed'> = {
  fields,
  askedBy: ['console'],
  decide({ state, telephone, request: { line, on, until } }) {
    if (!state.agents.get(telephone.id)) return refuse('notAllowed', 'Only operators serve lines.')
    if (!lookUp(state.company.lines, line)) return refuse('unallocatedNumber', 'There is no such line.')
    return accept({ type: 'lineServed', device: telephone.id, line, on, until: on ? null : until })
  },
}

export const lineServed: EventKind<'lineServed'> = {
  evolve: (state, next, event) => withAgent(state, next, event.device, ({ unserved: { [event.line]: _now, ...others } }) => ({
    unserved: event.on ? others : { ...others, [event.line]: event.until },
  })),
}
