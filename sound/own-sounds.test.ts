import { mulaw } from 'alawmulaw'
import { describe, expect, it } from 'vitest'
import { sampleRate } from '../core/sound/frames'
import { OwnSounds } from './own-sounds'

const sound = (value: number) => mulaw.encode(new Int16Array(800).fill(value))
const level = (samples: Int16Array | undefined, at = 0) => samples && Math.round(samples[at]! / 100)

describe('the sounds that somebody has brought', () => {
  it('are wanted while they are not here in that version, and gone once they are named no more', () => {
    const own = new OwnSounds()
    const [music, line] = [{ place: 'music', version: '1' }, { place: 'line:general', version: '1' }]
    expect(own.among([music, line])).toEqual([music, line])
    own.take('music', '1', sound(1_000))
    expect(own.among([music, line])).toEqual([line])
    expect(level(own.at('music')?.samples)).toBe(10)
    expect(own.at('line:general')).toBeUndefined()
    expect(own.among([{ ...music, version: '2' }])).toEqual([{ ...music, version: '2' }])
    expect(level(own.at('music')?.samples), 'heard until the new one is here').toBe(10)
    own.take('music', '2', sound(2_000))
    expect(level(own.at('music')?.samples)).toBe(20)
    expect(own.among([])).toEqual([])
    expect(own.at('music')).toBeUndefined()
  })

  it('as greetings are followed by the tone that says to speak', () => {
    const own = new OwnSounds()
    own.take('greeting:usual:t2106', '1', sound(1_000))
    const { samples, withBeep } = own.at('greeting:usual:t2106')!
    expect([samples.length, withBeep.length]).toEqual([800, 800 + 0.4 * sampleRate])
    expect([level(withBeep, 799), withBeep.subarray(800, 840).some(sample => Math.abs(sample) > 2_000)]).toEqual([10, true])
  })
})
