import examples from 'libphonenumber-js/mobile/examples'
import { type CountryCode, getExampleNumber } from 'libphonenumber-js/min'
import { describe, expect, it } from 'vitest'
import { formatNumber, readCaller, readDialled } from './dialled'

/** A general library's own example of a number in each of 23 countries, in the ways in which people there and programs write it. */
const regions: CountryCode[] = [
  'GB', 'DE', 'FR', 'NL', 'BE', 'ES', 'IT', 'SE', 'PL', 'DK', 'NO', 'FI', 'IE', 'PT', 'AT', 'CH', 'CZ', 'GR', 'US', 'CA', 'AU', 'NZ', 'JP',
]

describe('numbers of other countries', () => {
  it.each(regions)('%s', (country) => {
    const example = getExampleNumber(country, examples)!
    const home = { country, longestInside: 4 }
    const wanted = { kind: 'outside', e164: example.number }
    const [national, international] = [example.formatNational(), example.formatInternational()]
    const spellings = [
      national, national.replace(/[\s().-]/g, ''), national.replaceAll(' ', '\u00A0'), national.replace(/[\s-]/g, '\u2013'), `[${national}]`,
      ` ${national} x12`, international, international.replaceAll(' ', '-'), international.replaceAll(' ', '.'), example.format('RFC3966'),
      `${example.number};ext=12`, example.number,
      `\u202A${international}\u202C`, international.normalize('NFKC').replace(/\d/g, digit => String.fromCodePoint(0xFF10 + Number(digit))),
    ]
    for (const spelling of spellings) {
      expect(readDialled(spelling, home), `${spelling} at home`).toEqual(wanted)
      expect(readCaller(spelling, home), `${spelling} of a caller`).toBe(example.number)
    }
    const abroad = { country: country === 'GB' ? 'DE' : 'GB', longestInside: 4 }
    for (const spelling of spellings.slice(6)) expect(readDialled(spelling, abroad), `${spelling} abroad`).toEqual(wanted)
    expect(readDialled(formatNumber(example.number, home), home), 'as it is written here').toEqual(wanted)
    expect(formatNumber(example.number, { country: country === 'JP' ? 'GB' : 'JP', longestInside: 4 }), 'as it is written abroad').toMatch(/^\+/)
  })
})
