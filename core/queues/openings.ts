import { isOpenAt, nextChange } from '../calendar/hours'
import type { OpeningHours } from '../company/company'
import { lookUp } from '../company/lookups'
import type { CallEvent, DeviceId, ExchangeState, LineId, Opening } from '../calls/model'
import type { Timer } from '../calls/timers'

/** Whether lines and queues are open: by their hours, or by somebody's word. A change is an event: everybody holds the same to be open at every moment. */

/** The hours of a line or a queue; null when it has none: it is open until somebody closes it. */
export function hoursOf({ company }: ExchangeState, of: LineId | DeviceId): OpeningHours | null {
  const named = (lookUp(company.lines, of) ?? lookUp(company.groups, of))?.hours ?? null
  return named === null ? null : lookUp(company.hours, named) ?? null
}

export function isOpen(state: ExchangeState, of: LineId | DeviceId): boolean {
  return state.openings.get(of)?.open ?? true
}

/** What the hours of a line or a queue say at an instant of the exchange's time. */
export function byItsHours(state: ExchangeState, of: LineId | DeviceId, now: number): CallEvent {
  const wall = now + state.clockOffset
  return { type: 'openingChanged', of, open: openByHours(state, of, wall), by: null, until: null, to: null, wall }
}

/** @param wall an instant as people read it */
export function openByHours(state: ExchangeState, of: LineId | DeviceId, wall: number): boolean {
  const hours = hoursOf(state, of)
  return hours === null || isOpenAt(hours, wall)
}

/** When a line or queue opens or closes next by itself. What has hours and has not been looked at yet is looked at at once. */
export function timerOfOpening(state: ExchangeState, of: LineId | DeviceId): Timer | null {
  const hours = hoursOf(state, of)
  const opening = state.openings.get(of)
  const at = atNext(hours, opening)
  return at === null ? null : { name: 'opening', at: at === 'atOnce' ? state.time : at - state.clockOffset, owner: openingOwner(of) }
}

function atNext(hours: OpeningHours | null, opening: Opening | undefined): number | 'atOnce' | null {
  if (!opening) return hours === null ? null : 'atOnce'
  if (opening.by !== null && opening.until !== null) return opening.until
  return opening.by !== null || hours === null ? null : nextChange(hours, opening.at)
}

/** What is open after hours, or the clock, have changed: what somebody has said by hand stays, everything else is looked at anew. */
export function openingsAnew(state: ExchangeState, now: number): ExchangeState['openings'] {
  const at = now + state.clockOffset
  const byHours = [...withOpenings(state)].filter(of => !state.openings.get(of)?.by && hoursOf(state, of) !== null)
  return state.openings.filter(({ by }) => by !== null)
    .merge(byHours.map((of): [string, Opening] => [of, { open: openByHours(state, of, at), by: null, since: now, at, until: null, to: null }]))
}

const prefix = 'opening:'
export const openingOwner = (of: LineId | DeviceId) => `${prefix}${of}`
export const openingOf = (owner: string) => owner.slice(prefix.length)

/** Every line and queue that has hours, or about which somebody has said something. */
export function withOpenings(state: ExchangeState): Set<LineId | DeviceId> {
  const { lines, groups } = state.company
  const hours = [...Object.values(lines), ...Object.values(groups)].flatMap(({ id, hours: its }) => its === null ? [] : [id])
  return new Set([...hours, ...state.openings.keys()].filter(of => lookUp(lines, of) ?? lookUp(groups, of)))
}
