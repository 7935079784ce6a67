import { describe, expect, it } from 'vitest'
import { asPcm, frameLength, frameSamples, mixed, sampleRate, silentFrame } from './frames'
import { holdMusic } from './music'
import { voiceKinds, voiceOf } from './voices'

describe('frames', () => {
  it('are 20 ms of telephone sound', () => {
    expect([sampleRate, frameLength, frameSamples, silentFrame.length]).toEqual([8_000, 20, 160, 160])
  })

  it('add up, are cut off where they get too loud, and stay as they were', () => {
    const [one, other] = [new Int16Array(frameSamples).fill(20_000), new Int16Array(frameSamples).fill(15_000)]
    const third = new Int16Array(frameSamples).fill(-4_000)
    expect(mixed([one, other])[5]).toBe(32_767)
    expect(mixed([one, other, third])[5]).toBe(31_000)
    expect(mixed([third, third, third, third, third, third, third, third, third])[0]).toBe(-32_767)
    expect([one[0], other[0], third[0]]).toEqual([20_000, 15_000, -4_000])
    expect(mixed([one])).toBe(one)
    expect(mixed([])).toBe(silentFrame)
  })

  it('samples between -1 and 1 become what telephones carry', () => {
    expect([...asPcm(Float32Array.from([0, 0.5, -1, 2, -3]))]).toEqual([0, 16_384, -32_767, 32_767, -32_767])
  })
})

describe('the music', () => {
  const music = holdMusic(sampleRate)

  it('is the same every time, is heard all the time, and hurts nobody', () => {
    expect(holdMusic(sampleRate)).toEqual(music)
    expect(music.length).toBe(Math.round(32 * 0.55 * sampleRate))
    const loudness = Array.from({ length: Math.floor(music.length / sampleRate) }, (_, second) =>
      Math.max(...music.subarray(second * sampleRate, (second + 1) * sampleRate)))
    expect(Math.min(...loudness)).toBeGreaterThan(0.05)
    expect(Math.max(...loudness)).toBeLessThan(0.5)
  })

  it('has no seam where it begins again', () => {
    const steps = music.map((sample, at) => Math.abs(music[(at + 1) % music.length]! - sample))
    expect(steps.at(-1)).toBeLessThan(0.05)
  })
})

describe('a made-up voice', () => {
  it('is the same for the same person, within what a speaking program knows, and many are different', () => {
    const voices = Array.from({ length: 300 }, (_, index) => voiceOf(`+4477009${index}`))
    expect(voiceOf('+44770091')).toEqual(voices[1])
    for (const { kind, pitch, pace } of voices) {
      expect(kind >= 0 && kind < voiceKinds && pitch >= 30 && pitch <= 70 && pace >= 140 && pace <= 180).toBe(true)
    }
    expect(new Set(voices.map(voice => JSON.stringify(voice))).size).toBeGreaterThan(250)
    expect(new Set(voices.map(({ kind }) => kind)).size).toBe(voiceKinds)
  })
})
