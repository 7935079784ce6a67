/** Sound travels in frames, as telephones have it: G.711 (ITU-T) at 8 kHz, 20 ms each. */

/** Samples a second. */
export const sampleRate = 8_000
/** Milliseconds of a frame. */
export const frameLength = 20
/** Samples of a frame, each from -32,768 to 32,767. */
export const frameSamples = sampleRate * frameLength / 1_000

export const silentFrame = new Int16Array(frameSamples)

const loudest = 32_767

/** Frames heard together: their sum, cut off where it would be louder than anything can be. The frames themselves stay as they were. */
export function mixed(frames: readonly Int16Array[]): Int16Array {
  if (frames.length < 2) return frames[0] ?? silentFrame
  const sum = new Int16Array(frameSamples)
  for (let at = 0; at < frameSamples; at++) {
    let together = 0
    for (const frame of frames) together += frame[at]!
    sum[at] = Math.max(-loudest, Math.min(loudest, together))
  }
  return sum
}

/** Samples between -1 and 1 as telephones carry them. */
export function asPcm(samples: Float32Array): Int16Array {
  return Int16Array.from(samples, sample => Math.max(-loudest, Math.min(loudest, Math.round(sample * loudest))))
}
