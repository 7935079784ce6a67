import { boolean, object } from 'yup'
import { accept } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf } from '../fields'
import { withDevice } from '../places'
import type { Service } from '../service'

const fields = () => object({ device: device(), registered: boolean().strict().nullable().defined().label('registered') })

declare module '../model' {
  interface Requests { reportTelephone: FieldsOf<typeof fields> }
  interface Events {
    telephoneChanged: AtPlace & { registered: boolean | null }
  }
}

/** The network says whether a telephone of a person's own can be reached (`registered`); null: there is none, it is a console or a stand-in handset alone. */
export const reportTelephone: Service<'reportTelephone'> = {
  fields,
  askedBy: [],
  decide: ({ state, telephone: { id }, request: { registered } }) =>
    (state.devices.get(id)!.registered ?? null) === registered ? accept() : accept({ type: 'telephoneChanged', device: id, registered }),
}

export const telephoneChanged: EventKind<'telephoneChanged'> = {
  evolve: (state, next, { device, registered }) => withDevice(state, next, device, { registered: registered ?? undefined }),
}
