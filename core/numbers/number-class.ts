import { parsePhoneNumberFromString } from 'libphonenumber-js/max'
import type { NumberClass } from '../company/company'
import { type Home, isAtHome } from './dialled'

/** Kinds of the numbering plans that cost more than an ordinary call, and pay whoever is called. */
const dear: readonly string[] = ['PREMIUM_RATE', 'SHARED_COST', 'PERSONAL_NUMBER', 'PAGER']
/** Calling codes of no country (ITU-T E.164): satellites and networks of their own; 979 is for services at a premium. */
const satellites: readonly string[] = ['870', '881', '882', '883']
const premium = '979'

/** Promises are asked about again and again: what has been found is kept for so many numbers. */
const mostKnown = 2_000
const known = new Map<string, NumberClass>()

/**
 * The kind of a number outside (E.164), as far as its price goes: rules of the company say which may be called. For the exchange alone: the numbering plans
 * of all the world are too large for a browser. One that no numbering plan knows is one abroad, or of the
 * country as which it begins.
 */
export function classOf(e164: string, home: Home): NumberClass {
  const key = `${home.country} ${e164}`
  const before = known.get(key)
  if (before) return before
  if (known.size >= mostKnown) known.clear()
  const found = find(e164, home)
  known.set(key, found)
  return found
}

function find(e164: string, home: Home): NumberClass {
  const number = parsePhoneNumberFromString(e164)
  if (!number) return 'abroad'
  if (satellites.includes(number.countryCallingCode)) return 'satellite'
  if (number.countryCallingCode === premium || dear.includes(number.getType() ?? '')) return 'premium'
  return isAtHome(number, home) ? 'inland' : 'abroad'
}
