/** A list that does not move under the hand: while the pointer or the focus rests on it, everything keeps its place. */

/** One place in a list: whoever had it may be gone while a hand rests on the list. */
export interface Place<T> { id: string, item: T | null }

/**
 * The places of a list.
 * @param before the places as they are shown
 * @param items what is in the list now, in the order that it should have
 * @param resting true while a hand is on it: nothing moves then, who comes is put at the end, who goes leaves a gap
 */
export function settle<T>(before: readonly Place<T>[], items: readonly T[], idOf: (item: T) => string, resting: boolean): Place<T>[] {
  const wanted = items.map(item => ({ id: idOf(item), item }))
  if (!resting) return wanted
  const now = new Map(wanted.map(place => [place.id, place]))
  const kept = before.map(({ id }) => now.get(id) ?? { id, item: null })
  const known = new Set(before.map(({ id }) => id))
  return [...kept, ...wanted.filter(({ id }) => !known.has(id))]
}
