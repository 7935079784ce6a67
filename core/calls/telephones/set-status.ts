import { mixed, object } from 'yup'
import { accept } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, until } from '../fields'
import { type AwayReason, awayReasons } from '../model'
import { withDevice } from '../places'
import type { Service } from '../service'

const fields = () => object({
  device: device(),
  reason: mixed<AwayReason>().nullable().oneOf([...awayReasons, null]).defined().label('reason'),
  until: until().defined(),
})

declare module '../model' {
  interface Requests { setStatus: FieldsOf<typeof fields> }
  interface Events {
    statusChanged: AtPlace & { reason: AwayReason | null, until: number | null }
  }
}

/** Somebody's own word about themselves. */
export const setStatus: Service<'setStatus'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide: ({ telephone, request: { reason, until } }) => accept({ type: 'statusChanged', device: telephone.id, reason, until: reason === null ? null : until }),
}

export const statusChanged: EventKind<'statusChanged'> = {
  evolve: (state, next, { device, reason, until, at }) => withDevice(state, next, device, { status: { reason, since: at, until } }),
}
