import { contactOfEntry } from './entries'

/** What lets somebody stand before others who are found as well as they are. */
export interface Preferred {
  /** Whom the caller in hand probably wants, and how likely that is, from 0 to 1. */
  probable: ReadonlyMap<string, number>
  /** Who could not take a call now. */
  busy: ReadonlySet<string>
  /** Whom this operator often chooses. */
  often: ReadonlySet<string>
}

export const nobodyPreferred: Preferred = { probable: new Map(), busy: new Set(), often: new Set() }

/**
 * Among those who are found as well as each other: whoever the caller probably wants stands first, then whoever is free, then whom the operator often chooses,
 * contacts outside last.
 * @returns the higher, the further in front
 */
export function preferenceOf(id: string, { probable, busy, often }: Preferred): number {
  if (contactOfEntry(id) !== null) return -1
  return (probable.has(id) ? 4 : 0) + (busy.has(id) ? 0 : 2) + (often.has(id) ? 1 : 0)
}
