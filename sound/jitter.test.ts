import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { frameSamples } from '../core/sound/frames'
import { JitterBuffer } from './jitter'

const frame = (value: number) => new Int16Array(frameSamples).fill(value)
const taken = (buffer: JitterBuffer) => buffer.take()?.[0] ?? null

describe('what comes over a network', () => {
  it('is heard in its order from the second frame on, also where the numbers begin again', () => {
    const buffer = new JitterBuffer()
    buffer.put(65_534, frame(1))
    expect(taken(buffer)).toBeNull()
    buffer.put(0, frame(3))
    buffer.put(65_535, frame(2))
    buffer.put(65_535, frame(9))
    expect([taken(buffer), taken(buffer), taken(buffer), taken(buffer)]).toEqual([1, 2, 3, null])
  })

  it('what is lost is heard as what came before, more softly; what comes too late is not heard', () => {
    const buffer = new JitterBuffer()
    for (const sequence of [1, 2, 4, 5]) buffer.put(sequence, frame(sequence * 100))
    expect([taken(buffer), taken(buffer), taken(buffer)]).toEqual([100, 200, 100])
    buffer.put(3, frame(300))
    expect([taken(buffer), taken(buffer), taken(buffer)]).toEqual([400, 500, null])
  })

  it('after a pause it begins again, and of what comes all at once the oldest is left out', () => {
    const buffer = new JitterBuffer()
    for (const sequence of [1, 2]) buffer.put(sequence, frame(sequence))
    expect([taken(buffer), taken(buffer), taken(buffer)]).toEqual([1, 2, null])
    buffer.put(50, frame(50))
    expect(taken(buffer)).toBeNull()
    for (let sequence = 51; sequence < 58; sequence++) buffer.put(sequence, frame(sequence))
    expect([taken(buffer), taken(buffer)].every(value => value! >= 55)).toBe(true)
    buffer.put(58, new Int16Array(12))
    expect([taken(buffer), taken(buffer)]).toEqual([57, null])
  })

  it('whoever begins anew with other numbers is heard, also with lower ones', () => {
    const buffer = new JitterBuffer()
    for (const sequence of [900, 901]) buffer.put(sequence, frame(sequence))
    expect([taken(buffer), taken(buffer), taken(buffer)]).toEqual([900, 901, null])
    for (const sequence of [5, 6, 7]) buffer.put(sequence, frame(sequence))
    expect([taken(buffer), taken(buffer), taken(buffer)]).toEqual([5, 6, 7])
  })

  it('whatever the network does, each frame is heard once at most, in its order, and none is kept for long', () => {
    const arrivals = fc.array(fc.record({ by: fc.integer({ min: 0, max: 9 }), lost: fc.integer({ min: 0, max: 19 }) }), { minLength: 5, maxLength: 200 })
    fc.assert(fc.property(arrivals, fc.integer({ min: 0, max: 65_535 }), (packets, first) => {
      const buffer = new JitterBuffer()
      const due = packets.map(({ by, lost }, at) => ({ at, when: at + (by > 7 ? by - 5 : 0), lost: lost === 0 }))
      const heard: number[] = []
      for (let tick = 0; tick < packets.length + 20; tick++) {
        for (const { at, when, lost } of due) if (when === tick && !lost) buffer.put((first + at) & 0xFFFF, frame(at + 1_000))
        const value = taken(buffer)
        if (value !== null && value >= 1_000) heard.push(value - 1_000)
        if (value !== null && value >= 1_000 && tick - (value - 1_000) > 12) throw new Error('heard too late')
      }
      expect(heard).toEqual([...new Set(heard)].sort((a, b) => a - b))
    }), { numRuns: 200 })
  })
})
