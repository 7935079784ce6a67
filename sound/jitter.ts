import { frameSamples } from '../core/sound/frames'

/** Frames that are kept before the first is heard: what the network may be late by. */
const depth = 2
/** More than so many are too far behind what is being said: the oldest are left out. */
const most = 6
/** A frame that is missing is heard as the one before it, more softly. */
const fading = 0.5

/** Puts what comes over a network in its order, frame by frame: late, doubled, lost and reordered as it may be. */
export class JitterBuffer {
  /** By their place in what was sent, in that order. */
  private readonly frames: { place: number, samples: Int16Array }[] = []
  private highest: number | null = null
  /** The place of the frame that is heard next. */
  private next: number | null = null
  private last: Int16Array | null = null

  /** @param sequence of its packet, from 0 to 65,535 and on from 0 (RFC 3550) */
  put(sequence: number, samples: Int16Array): void {
    if (samples.length !== frameSamples) return
    // The nearest place that has this number.
    const place = this.highest === null ? sequence : this.highest + ((sequence - this.highest) << 16 >> 16)
    this.highest = Math.max(this.highest ?? place, place)
    if (this.next !== null && place < this.next) return
    let at = this.frames.length
    while (at > 0 && this.frames[at - 1]!.place > place) at--
    if (this.frames[at - 1]?.place !== place) this.frames.splice(at, 0, { place, samples })
    if (this.frames.length <= most) return
    this.frames.splice(0, this.frames.length - depth)
    if (this.next !== null) this.next = this.frames[0]!.place
  }

  /** The next frame; null while nothing has come. */
  take(): Int16Array | null {
    const [first] = this.frames
    if (this.next === null && this.frames.length < depth) return null
    if (!first) {
      // Whoever was silent may begin again a little later than they would have gone on.
      this.next = null
      this.last = null
      return null
    }
    this.next ??= first.place
    const isThere = first.place === this.next
    this.next++
    if (isThere) this.frames.shift()
    this.last = isThere ? first.samples : this.last?.map(sample => sample * fading) ?? null
    return this.last
  }
}
