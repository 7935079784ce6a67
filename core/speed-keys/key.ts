import type { InferType } from 'yup'
import type { speedKey } from './schema'

/**
 * Speed keys: pages of what an operator reaches with one press. Kept as data: a page belongs to one person, or to all who answer for the company.
 * `person`: by their own key, whatever number they have; `telephone`: one that belongs to a place; `group`: a group or queue; `number`: outside;
 * `slot`: takes who waits there, with Shift parks there; `zone`: speaks to its loudspeakers; `status`: one's own word, "available" or why away;
 * `line`: serves it or leaves it to the others; `opening`: closes a line or queue, or opens it; `night`: closes every line, or opens them all;
 * `forward`: one's own calls go there, or ring here again.
 */
export const keyKinds = ['person', 'telephone', 'group', 'number', 'slot', 'zone', 'status', 'line', 'opening', 'night', 'forward'] as const
export type KeyKind = typeof keyKinds[number]

export const mostKeys = 40
/** Of one person, and of those that are shared. */
export const mostPages = 20

/** Of a key or a page, in UTF-16 units. */
export const longestLabel = 40
export type SpeedKey = InferType<typeof speedKey>

export interface KeyPage {
  id: string
  name: string
  shared: boolean
  /** Counts its changes: whoever changes it says which version they have seen. */
  version: number
  keys: SpeedKey[]
}

/** What is pressed for the pages and for the keys of a page, one after the other: a page and a key are two strokes away from the key that leads to them. */
const letters = 'abcdefghijklmnopqrstuvwxyz'
export const pageStrokes: readonly string[] = [...letters, ...'1234567890', ...',.-#']
export const keyStrokes: readonly string[] = [...'1234567890', ...letters, ...',.-#']

/** The same key on another place of its page; a place that is none leaves everything as it is. */
export function moved(keys: readonly SpeedKey[], from: number, to: number): SpeedKey[] {
  const key = keys[from]
  if (!key || to < 0 || to >= keys.length) return [...keys]
  return keys.filter((_, index) => index !== from).toSpliced(to, 0, key)
}
