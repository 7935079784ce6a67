import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { expectedWait, tellPlace } from './expected-wait'

describe('how long somebody waits', () => {
  it('is not known before a call has ended, or while nobody serves', () => {
    expect(expectedWait(1, undefined, 3)).toBeNull()
    expect(expectedWait(1, 60_000, 0)).toBeNull()
  })

  it('grows with the place and shrinks with the people who serve', () => {
    const count = fc.integer({ min: 1, max: 99 })
    fc.assert(fc.property(count, fc.integer({ min: 1, max: 3_600_000 }), count, (place, handling, serving) => {
      const wait = expectedWait(place, handling, serving)!
      expect(expectedWait(place + 1, handling, serving)!).toBeGreaterThanOrEqual(wait)
      expect(expectedWait(place, handling, serving + 1)!).toBeLessThanOrEqual(wait)
      expect(expectedWait(serving, handling, serving)).toBe(handling)
    }))
  })

  it('is said in words that promise no more than is known', () => {
    expect(tellPlace({ place: 1, wait: null })).toBe('You are first.')
    expect(tellPlace({ place: 2, wait: 20_000 })).toBe('You are second. Less than a minute.')
    expect(tellPlace({ place: 3, wait: 61_000 })).toBe('You are third. About 1 minute.')
    expect(tellPlace({ place: 12, wait: 13 * 60_000 })).toBe('You are number 12. About 15 minutes.')
  })
})
