import { number, object } from 'yup'
import { accept } from '../answers'
import type { EventKind } from '../event'
import type { FieldsOf } from '../fields'
import { reindexAll } from '../indexes'
import { openingsAnew } from '../../queues/openings'
import { latestTime } from '../model'
import type { Service } from '../service'

const fields = () => object({ offset: number().strict().integer().min(-latestTime).max(latestTime).required().label('offset') })

declare module '../model' {
  interface Requests { adjustClock: FieldsOf<typeof fields> }
  interface Events {
    clockAdjusted: { offset: number }
  }
}

/** The clock on the wall was set: this added to the exchange's time is what people read now. */
export const adjustClock: Service<'adjustClock'> = {
  fields,
  askedBy: [],
  decide: ({ state, request: { offset } }) => offset === state.clockOffset ? accept() : accept({ type: 'clockAdjusted', offset }),
}

export const clockAdjusted: EventKind<'clockAdjusted'> = {
  evolve(_state, next, { offset, at }) {
    const after = { ...next, clockOffset: offset }
    return reindexAll({ ...after, openings: openingsAnew(after, at) })
  },
}
