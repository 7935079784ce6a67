import { expect, it } from 'vitest'
import { countries } from './countries'

it('every country with a numbering plan can be chosen, by the name that people know and in its order', () => {
  expect(countries.length).toBeGreaterThan(200)
  expect(countries).toContainEqual({ value: 'GB', label: 'United Kingdom (+44)' })
  expect(countries).toContainEqual({ value: 'CZ', label: 'Czechia (+420)' })
  expect(countries[0]!.value).toBe('AF')
  expect(countries.findIndex(({ value }) => value === 'DE')).toBeLessThan(countries.findIndex(({ value }) => value === 'GH'))
})
