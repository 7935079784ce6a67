import { type CountryCode, getCountries, getCountryCallingCode } from 'libphonenumber-js/min'

const names = new Intl.DisplayNames('en', { type: 'region' })

/** Every country with a numbering plan: its code (ISO 3166-1) and its name with its calling code, as choices, by name. */
export const countries: readonly { value: CountryCode, label: string }[] = getCountries()
  .map(value => ({ value, label: `${names.of(value) ?? value} (+${getCountryCallingCode(value)})` }))
  .sort((a, b) => a.label.localeCompare(b.label, 'en'))
