import { phrase } from '../../words/phrase'
import { object } from 'yup'
import { lookUp } from '../company/lookups'
import { accept, refuse } from '../calls/answers'
import type { EventKind } from '../calls/event'
import { device, type FieldsOf, idOf, on, until } from '../calls/fields'
import type { CallEvent, ExchangeState } from '../calls/model'
import { withAgent } from '../calls/places'
import { isPresent } from '../calls/questions'
import type { Service } from '../calls/service'

const fields = () => object({ device: device(), line: idOf('line', 'line'), on: on(), until: until().defined() })

declare module '../calls/model' {
  interface Requests { setLineServed: FieldsOf<typeof fields> }
  interface Events {
    /** `taker`: who serves it instead. */
    lineServed: AtPlace & { line: LineId, on: boolean, until: number | null, taker?: DeviceId }
  }
}

/** An operator leaves a line to the others for a while. */
export const setLineServed: Service<'setLineServed'> = {
  fields,
  askedBy: ['console'],
  decide({ state, telephone, request: { line, on, until } }) {
    if (!state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsServeLines'))
    if (!lookUp(state.company.lines, line)) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchLineSentence'))
    return accept({ type: 'lineServed', device: telephone.id, line, on, until: on ? null : until })
  },
}

export const lineServed: EventKind<'lineServed'> = {
  evolve: (state, next, event) => withAgent(state, next, event.device, ({ unserved: { [event.line]: _now, ...others }, takers }) => {
    const { [event.line]: _before, ...taken } = takers ?? {}
    return {
      unserved: event.on ? others : { ...others, [event.line]: event.until },
      takers: !event.on && event.taker ? { ...taken, [event.line]: event.taker } : taken,
    }
  }),
}

/** Whoever has left a line to another serves it again when that one is not there any more, or does not serve it either. */
export function linesComeBack(state: ExchangeState): CallEvent[] {
  return [...state.agents].flatMap(([device, { takers }]) => Object.entries(takers ?? {}).flatMap(([line, taker]): CallEvent[] => {
    const other = state.agents.get(taker)
    return other && isPresent(state, taker) && !(line in other.unserved) ? [] : [{ type: 'lineServed', device, line, on: true, until: null }]
  }))
}
