/**
 * How espeak-ng writes what it would say (its mnemonics, `docs/phonemes.md` there), as the phones of the CMU Pronouncing Dictionary, in which acoustic
 * models for English are trained. Vowels that have no like there are given to their neighbour.
 */
const phones: Record<string, string> = {
  'p': 'P', 'b': 'B', 't': 'T', 'd': 'D', 'k': 'K', 'g': 'G', 'f': 'F', 'v': 'V', 's': 'S', 'z': 'Z',
  'h': 'HH', 'm': 'M', 'n': 'N', 'l': 'L', 'r': 'R', 'w': 'W', 'j': 'Y',
  'T': 'TH', 'D': 'DH', 'S': 'SH', 'Z': 'ZH', 'N': 'NG', 'tS': 'CH', 'dZ': 'JH', 'x': 'K', 'R': 'R', 'L': 'L', 't#': 'T', 't2': 'T', 'r-': 'R',
  'a': 'AE', 'aa': 'AE', 'a#': 'AH', 'A:': 'AA', 'A@': 'AA R', '0': 'AA', 'O': 'AO', 'O:': 'AO', 'O2': 'OW', 'O@': 'AO R', 'o@': 'AO R', 'V': 'AH',
  'E': 'EH', 'e': 'EH', 'e@': 'EH R', 'eI@': 'EH R', 'I': 'IH', 'I2': 'IH', 'I#': 'IH', 'i': 'IY', 'i:': 'IY', 'i@': 'IH R', 'i@3': 'IH R',
  'U': 'UH', 'u': 'UW', 'u:': 'UW', 'U@': 'UH R', '@': 'AH', '@2': 'AH', '@5': 'AH', '@L': 'AH L', '3': 'ER', '3:': 'ER',
  'eI': 'EY', 'aI': 'AY', 'OI': 'OY', 'aU': 'AW', 'oU': 'OW', 'aI@': 'AY AH', 'aU@': 'AW ER',
}
const longest = Math.max(...Object.keys(phones).map(({ length }) => length))

/** One word as phones, "K W IH L F EH DH ER"; stress and pauses are left out, and what has no like. */
export function phonesOf(mnemonics: string): string {
  const found: string[] = []
  for (let at = 0; at < mnemonics.length;) {
    let length = longest
    while (length > 0 && phones[mnemonics.slice(at, at + length)] === undefined) length--
    if (length > 0) found.push(phones[mnemonics.slice(at, at + length)]!)
    at += Math.max(1, length)
  }
  return found.join(' ')
}
