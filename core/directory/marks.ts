import { fold, wordsOf } from './folding'

/** A piece of a text, marked where it is what was typed. */
export interface Piece { text: string, marked: boolean }

/**
 * A name in pieces, those letters marked that were typed: the beginning of a word first, else wherever the letters stand. What was only misheard or mistyped
 * marks nothing.
 */
export function marked(text: string, typed: string): Piece[] {
  const letters = [...text]
  // As they are compared, in the units in which places are counted (UTF-16), each knowing the letter that it comes from.
  const folded = letters.flatMap((letter, at) => fold(letter).split('').map(plain => ({ plain, at })))
  const plain = folded.map(one => one.plain).join('')
  const marks = new Set<number>()
  for (const word of wordsOf(fold(typed))) {
    const starts = [...plain.matchAll(new RegExp(`(?<![\\p{L}\\p{N}])${word}`, 'gu'))].map(({ index }) => index)
    const from = starts[0] ?? (word.length > 2 ? plain.indexOf(word) : -1)
    if (from >= 0) for (let at = from; at < from + word.length; at++) marks.add(folded[at]!.at)
  }
  const pieces: Piece[] = []
  for (const [at, letter] of letters.entries()) {
    const last = pieces.at(-1)
    if (last?.marked === marks.has(at)) last.text += letter
    else pieces.push({ text: letter, marked: marks.has(at) })
  }
  return pieces
}
