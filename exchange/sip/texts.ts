import { deviceName } from '../../core/calls/names'
import type { DeviceId, ExchangeState, NumberedEvent } from '../../core/calls/model'
import { targetOf } from '../../core/calls/targets'
import { lookUp } from '../../core/company/lookups'
import { english as t } from '../../words/english'
import { spoken } from '../../words/phrase'

/** What a display is told beside its calls (RFC 3428): what others have done for whoever is there. `state`: after it has happened. */
export function textFor(state: ExchangeState, event: NumberedEvent): { device: DeviceId, text: string } | null {
  const { company } = state
  const named = (device: DeviceId) => spoken(t, deviceName(company, device) ?? device)
  if (event.type === 'parked' && event.for !== null) {
    const party = state.calls.get(event.call)?.connections.find(({ party }) => party)?.party
    const slot = lookUp(company.slots, event.slot)
    const name = party?.name ?? party?.number ?? t('telephones.aCaller')
    return { device: event.for, text: t('telephones.waitsForYou', { name, number: slot?.number ?? '' }) }
  }
  if (event.type === 'forwardingChanged' && event.to !== null && event.by !== null) {
    const target = targetOf(state, event.to)
    const to = 'refusal' in target || target.kind === 'outside' ? event.to : named(target.id)
    return { device: event.device, text: t('telephones.callsGoTo', { to, by: named(event.by) }) }
  }
  const isDisturbed = event.type !== 'doNotDisturb' || !event.on || event.by === null
  return isDisturbed ? null : { device: event.device, text: t('telephones.notDisturbed', { by: named(event.by!) }) }
}
