import type { Device } from '../model'

/** A telephone at which nothing happens. */
export function quietDevice(since: number): Device {
  return { doNotDisturb: false, doNotDisturbBy: null, doNotDisturbUntil: null, status: { reason: null, since, until: null }, handset: false, freeSince: null }
}
