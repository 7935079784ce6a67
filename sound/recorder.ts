import { mulaw } from 'alawmulaw'
import { frameSamples, sampleRate, silentFrame } from '../core/sound/frames'
import type { SoundPiece } from '../shared/sound'

/** Samples of a piece: two seconds. */
const pieceSamples = 2 * sampleRate
/** Bytes that wait to be fetched, an hour of messages; of more the oldest are let go. */
const mostWaiting = 60 * 60 * sampleRate

/** What callers have said to mailboxes, piece by piece (G.711, µ-law), until somebody has kept it for good. */
export class Pieces {
  private readonly waiting: SoundPiece[] = []
  private bytes = 0
  private last = 0

  /** @param now milliseconds since 1970 */
  constructor(private readonly log: (text: string) => void, private readonly now: () => number = Date.now) {}

  add(message: string, sound: Uint8Array): void {
    // Pieces of a message stand in the order of their places, also those of a process that begins again.
    this.last = Math.max(this.now(), this.last + 1)
    this.waiting.push({ message, place: this.last, sound: Buffer.from(sound).toString('base64') })
    this.bytes += sound.length
    if (this.bytes <= mostWaiting) return
    this.log('sound: what is said to mailboxes has found nobody to keep it for an hour; the oldest is let go')
    while (this.bytes > mostWaiting / 2) this.bytes -= sizeOf(this.waiting.shift()!)
  }

  /** The oldest, so many at most. */
  oldest(most: number): SoundPiece[] {
    return this.waiting.slice(0, most)
  }

  /** They are kept elsewhere now. */
  kept(places: readonly number[]): void {
    const known = new Set(places)
    for (let at = this.waiting.length - 1; at >= 0; at--) {
      if (!known.has(this.waiting[at]!.place)) continue
      this.bytes -= sizeOf(this.waiting[at]!)
      this.waiting.splice(at, 1)
    }
  }
}

function sizeOf({ sound }: SoundPiece): number {
  return Buffer.byteLength(sound, 'base64')
}

/** A mailbox that has a call: first it says what it has to say, then it listens. */
export class Recorder {
  private said = 0
  private readonly piece = new Int16Array(pieceSamples)
  private filled = 0

  /** @param greeting what it says; null while that is being made */
  constructor(private readonly message: string, private readonly greeting: () => Int16Array | null, private readonly pieces: Pieces) {}

  /** Whether it listens by now. */
  get listens(): boolean {
    const greeting = this.greeting()
    return greeting !== null && this.said >= greeting.length
  }

  /** One frame further. */
  take(frame: Int16Array | undefined): void {
    if (!this.listens) {
      if (this.greeting()) this.said += frameSamples
      return
    }
    this.piece.set(frame ?? silentFrame, this.filled)
    this.filled += frameSamples
    if (this.filled === pieceSamples) this.end()
  }

  /** What is there by now is a piece. */
  end(): void {
    if (this.filled > 0) this.pieces.add(this.message, mulaw.encode(this.piece.subarray(0, this.filled)))
    this.filled = 0
  }
}
