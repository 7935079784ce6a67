import { expect, it } from 'vitest'
import { emergencyNumbers } from './emergency'

it('are those that people of a country dial, the one that they know best first; elsewhere 112', () => {
  const told = [
    'GB 999 112', 'IE 112 999', 'DE 112 110', 'AT 112 133 122 144', 'CH 112 117 118 144', 'FR 112 15 17 18', 'BE 112 101', 'NL 112', 'LU 112 113', 'DK 112',
    'NO 112 110 113', 'SE 112', 'FI 112', 'IS 112', 'PL 112 997 998 999', 'CZ 112 150 155 158', 'IT 112 113 115 118', 'ES 112 091', 'PT 112', 'US 911',
    'CA 911', 'MX 911', 'AU 000 112', 'NZ 111', 'ZA 112 10111', 'IN 112 100 101 108', 'JP 110 119', 'BR 190 192 193', 'XX 112', 'constructor 112',
  ]
  for (const each of told) {
    const [country, ...numbers] = each.split(' ')
    expect(emergencyNumbers(country!), country).toEqual(numbers)
  }
})
