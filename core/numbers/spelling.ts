/** How telephone numbers are written by people and programs, whatever number it is: one rule for the field, the search, what is pasted, and files. */

export interface Spelled {
  /** As it was written, in plain signs: digits, "+" in front, spaces, dots, dashes, brackets. Empty where only an extension is said. */
  number: string
  /** What is dialled behind it. */
  extension: string | null
}

const longestSpelling = 80
/** Letters, and all signs that stand for nothing: those that turn the direction of writing, and those without a width. */
const signless = /\p{Cf}/gu
const dashes = /[\p{Pd}\u2212]/gu
/** RFC 3966 ("tel:", ";ext="), and words for an extension in the languages around. */
const scheme = /^\s*(?:tel|callto|sip)\s*:\s*/i
const extensions = /^([^a-z;#]*?)\s*(?:;\s*ext\s*=|(?:extension|ext|extn|durchwahl|dw|poste|toestel|int|x|#)\s*[.:]?)\s*(\d{1,11})\s*$/i
const parameters = /;(?!\s*ext\s*=)\s*[a-z][\w-]*\s*(?:=[^;]*)?(?=;|$)/gi
const signs = /^[+\d\s().[\]\-/]*$/

/** @returns null for what is no number, however it is written */
export function spelled(text: string): Spelled | null {
  if (text.length > longestSpelling) return null
  const plain = text.normalize('NFKC').replace(signless, '').replace(dashes, '-').replace(scheme, '')
  const bare = (/^\s*[+(\d]/.test(plain) ? plain.replace(parameters, '') : plain).trim()
  const [, before, behind] = extensions.exec(bare) ?? []
  const number = (before ?? bare).replaceAll('[', '(').replaceAll(']', ')').trim()
  if (!signs.test(number) || !/\d/.test(number + (behind ?? ''))) return null
  // No more than one "+", before everything else.
  if (/[^\s(].*\+/.test(number)) return null
  return { number: /\d/.test(number) ? number : '', extension: behind ?? null }
}
