/**
 * Tones as a telephone network gives them: sums of frequencies, switched on and off in a cadence. Written as in ITU-T E.180, supplement 2:
 * "400+450: 0.4 on 0.2 off 0.4 on 2.0 off" (hertz, seconds), "425: continuous", and one frequency after the other as "950: 0.33 on; 1400: 0.33 on 1.0 off".
 */

/** So long of so many frequencies at once; none: silence. */
export interface TonePart {
  /** Hertz. */
  frequencies: readonly number[]
  milliseconds: number
}

/** The parts of one turn, which is repeated without end. One part alone is a tone without a pause. */
export type Tone = readonly TonePart[]

/** What a telephone carries, in hertz: outside of it nobody hears anything. */
const band = { from: 200, to: 3_400 }
const mostFrequencies = 4
const mostParts = 16
/** Milliseconds. */
const longestPart = 30_000
/** Of a tone that never pauses: frequencies are whole numbers, so it goes on from its end as from its beginning. */
const oneSecond = 1_000

const group = /^(\d{3,4}(?:\+\d{3,4})*):(.+)$/
const cadence = /^(?:\d{1,2}(?:[.,]\d{1,3})?(?:on|off))+$/
const spell = /(\d{1,2}(?:[.,]\d{1,3})?)(on|off)/g

/** Reads a tone as it is written; null when it can't be understood, can't be heard, or never sounds. */
export function readTone(written: string): Tone | null {
  const parts: TonePart[] = []
  for (const each of written.toLowerCase().replace(/\s+/g, '').split(';')) {
    const [, sum, pattern] = group.exec(each) ?? []
    if (!sum || !pattern) return null
    const frequencies = sum.split('+').map(Number)
    if (frequencies.length > mostFrequencies || frequencies.some(hertz => hertz < band.from || hertz > band.to)) return null
    if (pattern === 'continuous') parts.push({ frequencies, milliseconds: oneSecond })
    else if (cadence.test(pattern)) {
      for (const [, long, way] of pattern.matchAll(spell))
        parts.push({ frequencies: way === 'on' ? frequencies : [], milliseconds: Math.round(Number(long!.replace(',', '.')) * 1_000) })
    }
    else return null
  }
  const sounds = parts.some(({ frequencies }) => frequencies.length > 0)
  const fits = parts.length <= mostParts && parts.every(({ milliseconds }) => milliseconds > 0 && milliseconds <= longestPart)
  const without = parts.length > 1 && written.toLowerCase().includes('continuous')
  return sounds && fits && !without ? parts : null
}

/** Longer than this (milliseconds) each frequency takes to begin and to end: without it a tone clicks. */
const ramp = 5

/**
 * One turn of a tone as samples between -1 and 1, to be repeated.
 * @param rate samples a second
 * @param level the highest that all frequencies together reach, from 0 to 1
 */
export function toneSamples(tone: Tone, rate: number, level: number): Float32Array<ArrayBuffer> {
  const lengths = tone.map(({ milliseconds }) => Math.round(milliseconds / 1_000 * rate))
  const samples = new Float32Array(lengths.reduce((sum, length) => sum + length, 0))
  const rise = tone.length > 1 ? ramp / 1_000 * rate : 0
  let from = 0
  tone.forEach(({ frequencies }, index) => {
    const length = lengths[index]!
    for (let at = 0; at < length; at++) {
      const edge = rise > 0 ? Math.min(1, at / rise, (length - at) / rise) : 1
      for (const hertz of frequencies) samples[from + at]! += Math.sin(2 * Math.PI * hertz * at / rate) * edge * level / frequencies.length
    }
    from += length
  })
  return samples
}

/**
 * How much of one frequency there is in samples: the height of its wave, by the algorithm of Goertzel (American Mathematical Monthly 65, 1958).
 * @param rate samples a second
 */
export function heightOf(hertz: number, samples: Float32Array, rate: number): number {
  const turn = 2 * Math.cos(2 * Math.PI * hertz / rate)
  let [before, last] = [0, 0]
  for (const sample of samples) [before, last] = [last, sample + turn * last - before]
  return 2 * Math.sqrt(Math.max(0, last * last + before * before - turn * last * before)) / samples.length
}
