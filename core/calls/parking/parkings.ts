import type { Call, CallId, DeviceId, NumberedEvent, Party } from '../model'
import { isSlot } from '../names'

/** How a parking ended; `waiting` while it has not. */
export const parkingEnds = ['waiting', 'taken', 'cameBack', 'sentOn', 'gaveUp', 'lost'] as const
export type ParkingEnd = typeof parkingEnds[number]

/** One caller's stay in a park slot. Times are milliseconds since 1970. */
export interface Parking {
  call: CallId
  /** When the caller was parked: a call may be parked several times. */
  at: number
  slot: DeviceId
  by: DeviceId
  for: DeviceId | null
  party: Party | null
  caller: DeviceId
  end: ParkingEnd
  endedAt: number | null
  takenBy: DeviceId | null
}

/**
 * What an event does to the history of parkings: a stay that begins or ends, or null.
 * @param before the call before the event; @param after the call after it
 */
export function parkingOf(event: NumberedEvent, before: Call | undefined, after: Call | undefined): Parking | null {
  if (event.type === 'parked' && after) return stay(after, 'waiting', null, null)
  if (!before?.parked || after?.parked) return null
  switch (event.type) {
    case 'established': return stay(before, 'taken', event.at, event.device)
    case 'diverted': return stay(before, 'cameBack', event.at, null)
    case 'transferred': return stay(before, 'sentOn', event.at, isSlot(event.to) ? null : event.to)
    case 'callCleared': return stay(before, 'gaveUp', event.at, null)
    default: return null
  }
}

/** The stay of a parked caller. */
export function stay({ id, parked, party, calling }: Call, end: ParkingEnd, endedAt: number | null, takenBy: DeviceId | null): Parking {
  const { at, slot, by, for: reserved } = parked!
  return { call: id, at, slot, by, for: reserved, party, caller: calling, end, endedAt, takenBy }
}
