import type { Blanks, Key, Message, PlainKey, Speaker } from './speaker'

/**
 * What is to be said, in nobody's language yet: a key of the catalogue, and what fills its blanks. Plain data: it travels, and is kept, until it is read.
 */
export interface Phrase { key: Key, with?: Record<string, string | number | Phrase> }

/** Names, and whatever people have written, are said as they are. */
export type Spoken = string | Phrase

type Filling<K extends Key> = [Blanks<Message<K>>] extends [never] ? [] : [{ [Blank in Blanks<Message<K>>]: string | number | Phrase } & { count?: number }]

export function phrase<K extends Key>(key: K, ...[filling]: Filling<K>): Phrase {
  return filling === undefined ? { key } : { key, with: filling as Phrase['with'] }
}

/** Says it to somebody. */
export function spoken(t: Speaker, what: Spoken): string {
  if (typeof what === 'string') return what
  if (what.with === undefined) return t(what.key as PlainKey)
  const filled = Object.entries(what.with).map(([blank, value]) => [blank, typeof value === 'object' ? spoken(t, value) : value])
  return (t as (key: Key, values: Record<string, string | number>) => string)(what.key, Object.fromEntries(filled))
}
