import { lookUp, telephoneWithNumber } from '../../company/lookups'
import type { CannotRing } from '../answers'
import type { Call, DeviceId, ExchangeState, Forward, ForwardKind } from '../model'
import { readDialled } from '../../numbers/dialled'

/** Telephones whose calls go elsewhere. */

export const forwardKinds = ['always', 'busy', 'noAnswer'] as const

declare module '../model' {
  interface Events {
    /** `device` has sent it on. */
    forwarded: OfCall & { to: string }
  }
}

/** Where calls of a telephone go of a kind, or undefined. A call is sent on by each telephone once: rules that lead in a circle end. */
export function forwardOf(state: ExchangeState, device: DeviceId, when: ForwardKind, call: Call | undefined): Forward | undefined {
  return call?.forwardedBy?.includes(device) ? undefined : state.devices.get(device)?.forwarding?.[when]
}

/** Where a telephone sends a call that has come for it, before it rings: always, or because it can't be rung for this reason. */
export function forwardAtOnce(state: ExchangeState, device: DeviceId, cause: CannotRing | null, call: Call | undefined): Forward | undefined {
  return forwardOf(state, device, 'always', call) ?? (cause === 'busy' || cause === 'doNotDisturb' ? forwardOf(state, device, 'busy', call) : undefined)
}

/** The telephones through which what goes to `to` would come back to `from`; null when it does not. */
export function leadsBack(state: ExchangeState, from: DeviceId, to: DeviceId): DeviceId[] | null {
  const way = [to]
  for (let at = to; ;) {
    const next = state.devices.get(at)?.forwarding?.always?.to
    const device = next === undefined ? undefined : telephoneNamed(state, next)
    if (device === undefined || way.includes(device)) return null
    way.push(device)
    if (device === from) return way
    at = device
  }
}

function telephoneNamed({ company }: ExchangeState, to: string): DeviceId | undefined {
  if (lookUp(company.telephones, to)) return to
  const dialled = readDialled(to, company.settings)
  return dialled.kind === 'inside' ? telephoneWithNumber(company, dialled.digits)?.id : undefined
}
