import { frameSamples } from '../core/sound/frames'

/** Frames that are kept before the first is heard: what the network may be late by. */
const depth = 2
/** More than so many are too far behind what is being said: the oldest are left out. */
const most = 6
/** Whoever is so many frames behind what was heard last is not late, but has begun anew. */
const anew = 100
/** A frame that is missing is heard as the one before it, more softly. */
const fading = 0.5

/** Puts what comes over a network in its order, frame by frame: late, doubled, lost and reordered as it may be. */
export class JitterBuffer {
  /** By their place in what was sent, in that order. */
  private readonly frames: { place: number, samples: Int16Array }[] = []
  private highest: number | null = null
  /** The place of the frame that is heard next, once any was. */
  private next: number | null = null
  /** Nothing is heard until some are there. */
  private filling = true
  private last: Int16Array | null = null

  /** @param sequence of its packet, from 0 to 65,535 and on from 0 (RFC 3550) */
  put(sequence: number, samples: Int16Array): void {
    if (samples.length !== frameSamples) return
    // The nearest place that has this number.
    let place = this.highest === null ? sequence : this.highest + ((sequence - this.highest) << 16 >> 16)
    if (this.next !== null && place < this.next - anew) {
      this.frames.length = 0
      this.highest = this.next = null
      this.filling = true
      place = sequence
    }
    this.highest = Math.max(this.highest ?? place, place)
    if (this.next !== null && place < this.next) return
    let at = this.frames.length
    while (at > 0 && this.frames[at - 1]!.place > place) at--
    if (this.frames[at - 1]?.place !== place) this.frames.splice(at, 0, { place, samples })
    if (this.frames.length <= most) return
    this.frames.splice(0, this.frames.length - depth)
    this.next = this.frames[0]!.place
  }

  /** The next frame; null while nothing has come. */
  take(): Int16Array | null {
    const [first] = this.frames
    if (!first || (this.filling && this.frames.length < depth)) {
      // Whoever was silent may begin again a little later than they would have gone on.
      this.filling = true
      this.last = null
      return null
    }
    const expected = this.filling ? first.place : this.next!
    this.filling = false
    this.next = expected + 1
    const isThere = first.place === expected
    if (isThere) this.frames.shift()
    this.last = isThere ? first.samples : this.last?.map(sample => sample * fading) ?? null
    return this.last
  }
}
