import { phrase, type Phrase } from '../../words/phrase'
import { type CountryCode, getCountryCallingCode, isSupportedCountry, parsePhoneNumberFromString } from 'libphonenumber-js/min'
import { spelled } from './spelling'

/** What a dialled text means: a short number inside the company, an outside number in E.164, or nothing that can be dialled. */
export type Dialled
  = | { kind: 'inside', digits: string }
    | { kind: 'outside', e164: string }
    | { kind: 'invalid', why: Phrase }

/** Where the house stands, and how long its own numbers are: data of the company (`settings`). */
export interface Home {
  /** ISO 3166-1, two letters: numbers that name no country are of this one. */
  country: string
  /** A number typed that has no more digits than this is one inside. */
  longestInside: number
}

const countryOf = ({ country }: Home): CountryCode | undefined => isSupportedCountry(country) ? country : undefined

const longestDialled = 40

/**
 * Reads a number as typed or pasted, however it is written (`spelled`).
 * So few digits are an inside number; anything longer must be a possible number by ITU-T E.164, national or international.
 */
export function readDialled(text: string, home: Home): Dialled {
  const said = spelled(text)
  if (!/\d/.test(text.normalize('NFKC'))) return { kind: 'invalid', why: phrase('numbers.needsDigits') }
  if (!said) return { kind: 'invalid', why: phrase('numbers.digitsOnly') }
  // An extension alone is one of ours; one behind a number outside is said there, not dialled.
  const number = said.number || said.extension!
  if (number.length > longestDialled) return { kind: 'invalid', why: phrase('numbers.tooLong') }
  const digits = number.replace(/\D/g, '')
  if (!number.includes('+') && digits.length <= home.longestInside) {
    return said.number && said.extension
      ? { kind: 'invalid', why: phrase('numbers.insideHasNoExtension') }
      : { kind: 'inside', digits }
  }
  const parsed = parsePhoneNumberFromString(number, countryOf(home))
  if (!parsed || !parsed.isPossible()) return { kind: 'invalid', why: phrase('numbers.notComplete') }
  return { kind: 'outside', e164: parsed.number }
}

/** How numbers were written a moment ago: whoever calls stands in many events. */
const formatted = new Map<string, string>()
const mostFormatted = 5_000

/** An E.164 number as people write it here: national at home, international from abroad. Anything else comes back unchanged. */
export function formatNumber(e164: string, home: Home): string {
  const key = `${home.country} ${e164}`
  const known = formatted.get(key)
  if (known !== undefined) return known
  const parsed = parsePhoneNumberFromString(e164)
  const shown = !parsed ? e164 : isAtHome(parsed, home) ? parsed.formatNational() : parsed.formatInternational()
  if (formatted.size >= mostFormatted) formatted.clear()
  formatted.set(key, shown)
  return shown
}

/**
 * The number of a caller as the network says it, in E.164 however it is spelled: national, with 00 or without any prefix, with a part in brackets.
 * What can't be read as a number comes back unchanged: it is shown, and never dialled or compared.
 */
export function readCaller(text: string, home: Home): string {
  const said = spelled(text)
  if (!said || !/^\+?\d{6,20}$/.test(said.number.replace(/[^+\d]/g, ''))) return text
  const parsed = parsePhoneNumberFromString(said.number, countryOf(home))
  return parsed?.isPossible() ? parsed.number : text
}

/** A destination as far as who sees no callers may know it: a number outside is left empty. */
export function concealed(to: string): string {
  return (spelled(to)?.number ?? '').replace(/\D/g, '').length > longestOfAll ? '' : to
}

/** The longest number inside of any house. */
const longestOfAll = 7

/** Countries that share a calling code write each other's numbers as their own. */
export function isAtHome(number: { country?: string, countryCallingCode: string }, home: Home): boolean {
  const country = countryOf(home)
  return country !== undefined && number.countryCallingCode === getCountryCallingCode(country)
}
