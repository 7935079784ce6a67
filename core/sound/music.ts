/**
 * Music for whoever waits: of our own making, computed, and the same every time. A slow round over four chords, each note a plucked string that fades.
 */

/** Semitones above the lowest note. */
const chords = [[0, 7, 12, 16], [5, 9, 12, 17], [-3, 4, 9, 12], [7, 11, 14, 19]] as const
/** Which notes of a chord one after the other. */
const round = [0, 2, 1, 3, 2, 1, 3, 2] as const
const lowest = 196
const beat = 0.55
/** Seconds after which a note is half as loud. */
const halfLife = 0.35
/** Overtones of a string, each with its loudness. */
const overtones = [1, 0.45, 0.2, 0.08]
const level = 0.11

/**
 * One turn, to be repeated.
 * @param rate samples a second
 * @returns samples between -1 and 1
 */
export function holdMusic(rate: number): Float32Array<ArrayBuffer> {
  const notes = chords.flatMap(chord => round.map(note => lowest * 2 ** (chord[note] / 12)))
  const samples = new Float32Array(Math.round(notes.length * beat * rate))
  notes.forEach((hertz, index) => {
    const from = Math.round(index * beat * rate)
    for (let at = 0; at < 4 * beat * rate; at++) {
      const seconds = at / rate
      const loudness = level * Math.min(1, seconds / 0.008) * 2 ** (-seconds / halfLife)
      // What still sounds at the end goes on at the beginning: the turn has no seam.
      const wave = overtones.reduce((sum, part, over) => sum + part * Math.sin(2 * Math.PI * hertz * (over + 1) * seconds), 0)
      samples[(from + at) % samples.length]! += loudness * wave
    }
  })
  return samples
}
