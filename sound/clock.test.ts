import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { everyFrame } from './clock'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

describe('the clock of the frames', () => {
  it('ticks fifty times a second, until it is ended', () => {
    let ticks = 0
    const end = everyFrame(() => ticks++, () => Date.now())
    vi.advanceTimersByTime(1_000)
    expect(ticks).toBe(50)
    end()
    vi.advanceTimersByTime(1_000)
    expect(ticks).toBe(50)
  })

  it('makes up for a little, and lets go of what is too late to be heard', () => {
    let [ticks, late] = [0, 0]
    const end = everyFrame(() => ticks++, () => Date.now() + late)
    vi.advanceTimersByTime(100)
    expect(ticks).toBe(5)
    late = 100
    vi.advanceTimersByTime(20)
    expect(ticks).toBe(11)
    late = 60_000
    vi.advanceTimersByTime(20)
    expect(ticks).toBeLessThan(15)
    end()
  })
})
