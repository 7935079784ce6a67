/** How somebody sounds who is only made up: the same person always alike, two people seldom. */
export interface Voice {
  /** Of the kinds that a speaking program knows, as a number from 0. */
  kind: number
  /** From 0, low, to 99. */
  pitch: number
  /** Words a minute. */
  pace: number
}

/** Kinds of voices to be told apart. */
export const voiceKinds = 12

/** @param who whoever speaks: their number, or the name of their telephone */
export function voiceOf(who: string): Voice {
  const chance = hashOf(who)
  return { kind: chance % voiceKinds, pitch: 30 + Math.floor(chance / voiceKinds) % 41, pace: 140 + Math.floor(chance / 1_000) % 41 }
}

/** FNV-1a (Fowler, Noll, Vo), 32 bits. */
function hashOf(text: string): number {
  let hash = 0x811C9DC5
  for (const letter of text) hash = Math.imul(hash ^ letter.codePointAt(0)!, 0x01000193) >>> 0
  return hash
}
