import fc from 'fast-check'
import { expect, it } from 'vitest'
import { filled, heatOf, marks } from './lateness'

it('a ribbon grows as long as somebody waits, up to more than ten times the promise', () => {
  fc.assert(fc.property(fc.double({ min: 0, max: 11, noNaN: true }), fc.double({ min: 0.01, max: 1, noNaN: true }), (used, more) => {
    expect(filled(used + more)).toBeGreaterThan(filled(used))
    expect(filled(used)).toBeLessThanOrEqual(1)
  }))
  expect(filled(40)).toBe(1)
  expect(filled(-1)).toBe(0)
  expect(filled(Number.NaN)).toBe(0)
})

it('the promise and its multiples are marked apart enough to tell them', () => {
  const places = marks.map(({ at }) => at)
  for (const [index, at] of places.entries()) expect(at - (places[index - 1] ?? 0)).toBeGreaterThan(0.12)
})

it('a ribbon burns exactly from its promise on', () => {
  expect([0, 0.6, 0.61, 1, 1.001].map(heatOf)).toEqual(['calm', 'calm', 'warm', 'warm', 'late'])
})
