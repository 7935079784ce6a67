import { type CountryCode, getCountryCallingCode, isSupportedCountry, parsePhoneNumberFromString } from 'libphonenumber-js/min'

/** What a dialled text means: a short number inside the company, an outside number in E.164, or nothing that can be dialled. */
export type Dialled
  = | { kind: 'inside', digits: string }
    | { kind: 'outside', e164: string }
    | { kind: 'invalid', why: string }

/** Where the house stands, and how long its own numbers are: data of the company (`settings`). */
export interface Home {
  /** ISO 3166-1, two letters: numbers that name no country are of this one. */
  country: string
  /** A number typed that has no more digits than this is one inside. */
  longestInside: number
}

const countryOf = ({ country }: Home): CountryCode | undefined => isSupportedCountry(country) ? country : undefined

/**
 * Reads a number as typed or pasted: spaces, dots, dashes, brackets and a `tel:` prefix are allowed.
 * So few digits are an inside number; anything longer must be a possible number by ITU-T E.164, national or international.
 */
export function readDialled(text: string, home: Home): Dialled {
  const bare = text.trim().replace(/^tel:/i, '')
  if (bare.length > 40) return { kind: 'invalid', why: 'That is too long to be a telephone number.' }
  if (!/\d/.test(bare)) return { kind: 'invalid', why: 'A telephone number needs digits.' }
  if (!/^\+?[\d\s().\-/]+$/.test(bare)) return { kind: 'invalid', why: 'A telephone number holds digits only, with + in front if it is international.' }
  const digits = bare.replace(/\D/g, '')
  if (!bare.startsWith('+') && digits.length <= home.longestInside) return { kind: 'inside', digits }
  const parsed = parsePhoneNumberFromString(bare, countryOf(home))
  if (!parsed || !parsed.isPossible()) return { kind: 'invalid', why: 'That is not a complete telephone number: check the number of digits.' }
  return { kind: 'outside', e164: parsed.number }
}

/** An E.164 number as people write it here: national at home, international from abroad. Anything else comes back unchanged. */
export function formatNumber(e164: string, home: Home): string {
  const parsed = parsePhoneNumberFromString(e164)
  if (!parsed) return e164
  return isAtHome(parsed, home) ? parsed.formatNational() : parsed.formatInternational()
}

/**
 * The number of a caller as the network says it, in E.164 however it is spelled: national, with 00 or without any prefix, with a part in brackets.
 * What can't be read as a number comes back unchanged: it is shown, and never dialled or compared.
 */
export function readCaller(text: string, home: Home): string {
  const digits = text.replace(/[\s().\-/]/g, '')
  if (!/^\+?\d{6,20}$/.test(digits)) return text
  const parsed = parsePhoneNumberFromString(text, countryOf(home))
  return parsed?.isPossible() ? parsed.number : text
}

/** A destination as far as who sees no callers may know it: a number outside is left empty. */
export function concealed(to: string): string {
  return /^\+?[\d\s().\-/]+$/.test(to) && to.replace(/\D/g, '').length > longestOfAll ? '' : to
}

/** The longest number inside of any house. */
const longestOfAll = 7

/** Countries that share a calling code write each other's numbers as their own. */
export function isAtHome(number: { country?: string, countryCallingCode: string }, home: Home): boolean {
  const country = countryOf(home)
  return country !== undefined && number.countryCallingCode === getCountryCallingCode(country)
}
