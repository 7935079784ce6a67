import { describe, expect, it } from 'vitest'
import { costs, takeShare, tooOften } from './shares'

describe('the share of one asker', () => {
  it('is fifty dear answers, or two thousand others, at once; nobody else waits for it', async () => {
    for (let asked = 0; asked < 50; asked++) expect(await takeShare('dear', costs.dear)).toBeNull()
    const wait = await takeShare('dear', costs.dear)
    expect(wait).toBeGreaterThan(0)
    expect(wait).toBeLessThanOrEqual(10)
    expect(await takeShare('dear', costs.any)).not.toBeNull()
    expect(await takeShare('another', costs.dear)).toBeNull()
    for (let asked = 0; asked < 2_000; asked++) expect(await takeShare('cheap', costs.any)).toBeNull()
    expect(await takeShare('cheap', costs.any)).not.toBeNull()
  })

  it('is told in seconds', () => {
    expect([1, 2].map(tooOften).join(' ')).toBe('Too much was asked at once. Wait 1 second and try again. '
      + 'Too much was asked at once. Wait 2 seconds and try again.')
  })
})
