import { object } from 'yup'
import { accept } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, on } from '../fields'
import { withDevice } from '../places'
import type { Service } from '../service'

const fields = () => object({ device: device(), on: on() })

declare module '../model' {
  interface Requests { setHandset: FieldsOf<typeof fields> }
  interface Events {
    handsetChanged: AtPlace & { on: boolean }
  }
}

/** A person holds the stand-in handset of a telephone: nobody simulated acts for it. */
export const setHandset: Service<'setHandset'> = {
  fields,
  askedBy: ['handset'],
  decide: ({ state, telephone: { id }, request: { on } }) =>
    state.devices.get(id)!.handset === on ? accept() : accept({ type: 'handsetChanged', device: id, on }),
}

export const handsetChanged: EventKind<'handsetChanged'> = {
  evolve: (state, next, { device, on }) => withDevice(state, next, device, { handset: on }),
}
