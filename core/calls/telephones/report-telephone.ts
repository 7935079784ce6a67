import { boolean, object } from 'yup'
import { accept } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf } from '../fields'
import type { DeviceId, ExchangeState } from '../model'
import { withDevice } from '../places'
import type { Service } from '../service'
import { lookUp } from '../../company/lookups'

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

/** There is something at which a telephone of ours rings and is answered: itself, a console, or the stand-in handset. */
export function isConnected(state: ExchangeState, id: DeviceId): boolean {
  const device = state.devices.get(id)
  if (!device || !lookUp(state.company.telephones, id)?.inService) return false
  return device.registered !== false || device.handset || state.agents.get(id)?.attended === true
}
