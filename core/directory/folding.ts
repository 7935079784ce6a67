/** Texts as the search compares them: without case, accents and the spelling of one country. */

/** Letters that are no letter with a mark, as others write them. */
const marked: Record<string, string> = { ø: 'o', ł: 'l', æ: 'ae', œ: 'oe', ß: 'ss', ð: 'd', þ: 'th', đ: 'd', ı: 'i' }

/** Greek (ISO 843) and Cyrillic (as passports write it, ICAO 9303-3, section 6 B) in Latin letters, both without marks. */
const scripts: Record<string, string> = {
  α: 'a', β: 'v', γ: 'g', δ: 'd', ε: 'e', ζ: 'z', η: 'i', θ: 'th', ι: 'i', κ: 'k', λ: 'l', μ: 'm', ν: 'n', ξ: 'x', ο: 'o', π: 'p', ρ: 'r', σ: 's', ς: 's',
  τ: 't', υ: 'y', φ: 'f', χ: 'ch', ψ: 'ps', ω: 'o',
  а: 'a', б: 'b', в: 'v', г: 'g', д: 'd', е: 'e', ж: 'zh', з: 'z', и: 'i', к: 'k', л: 'l', м: 'm', н: 'n', о: 'o', п: 'p', р: 'r', с: 's', т: 't', у: 'u',
  ф: 'f', х: 'kh', ц: 'ts', ч: 'ch', ш: 'sh', щ: 'shch', ъ: '', ы: 'y', ь: '', э: 'e', ю: 'iu', я: 'ia', ѕ: 'dz', ј: 'j', љ: 'lj', њ: 'nj', ћ: 'c', ђ: 'd',
  џ: 'dz', є: 'ie', і: 'i', ґ: 'g', ў: 'u', ѓ: 'g', ќ: 'k',
}
const letters: Record<string, string> = { ...marked, ...scripts }
const otherLetters = new RegExp(`[${Object.keys(letters).join('')}]`, 'g')

/** Lower case without accents. */
export function withoutMarks(text: string): string {
  return text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
}

/** The same in the letters of English alone. */
export function fold(text: string): string {
  return withoutMarks(text).replace(otherLetters, letter => letters[letter]!)
}

/** How the same is written where there are no marks: Müller is also Mueller, Åse also Aase. */
export function unmarked(text: string): string {
  return fold(text.normalize('NFC').toLowerCase().replace(/[äæ]/g, 'ae').replace(/[öø]/g, 'oe').replace(/ü/g, 'ue').replace(/å/g, 'aa'))
}

/** The words of a text; an apostrophe divides none. */
export function wordsOf(text: string): string[] {
  return text.replace(/['’]/g, '').split(/[^\p{L}\p{N}]+/u).filter(Boolean)
}

/** Words that two countries write in ways that no rule covers. */
const others: Record<string, string> = {
  tire: 'tyre', check: 'cheque', jewelry: 'jewellery', gray: 'grey', program: 'programme', airplane: 'aeroplane', plow: 'plough', curb: 'kerb', mold: 'mould',
  skeptical: 'sceptical', aluminum: 'aluminium', draft: 'draught', pajama: 'pyjama', cozy: 'cosy', story: 'storey',
}

/**
 * A word of the language in one form, whether it is one or many of a thing, and on whichever side of the ocean it is written. Comparing such forms is all
 * they are good for.
 */
export function stem(word: string): string {
  let form = word
  if (/[^aeiou]ies$/.test(form)) form = form.replace(/ies$/, 'y')
  else if (/(s|x|z|ch|sh)es$/.test(form) && form.length > 5) form = form.slice(0, -2)
  else if (/[^su]s$/.test(form) && form.length > 3) form = form.slice(0, -1)
  if (form === 'children' || form === 'men' || form === 'women') form = form === 'children' ? 'child' : form.replace(/men$/, 'man')
  form = others[form] ?? form
  return form
    .replace(/^(.{2,})our(?=$|ed|ing|er|able|ful)/, '$1or')
    .replace(/is(e|ed|ing|ation|er)$/, 'iz$1')
    .replace(/^(.*[aeiou].*)yse$/, '$1yze')
    .replace(/(cent|theat|met|lit|fib|calib|spect)re$/, '$1er')
    .replace(/logue$/, 'log')
    .replace(/([aeiou])ll(ed|ing|er|ery)$/, '$1l$2')
    .replace(/(lic|def|off|pret)ence$/, '$1ense')
    .replace(/^(.+)mme$/, '$1m')
    .replace(/ae|oe/g, 'e')
}
