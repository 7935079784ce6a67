import type { Call, CallId, DeviceId, ExchangeState } from '../core/calls/model'
import { ownPage } from '../core/calls/paging/pages'
import { callsOf } from '../core/calls/questions'
import { recordingOf } from '../core/calls/recording/recordings'
import { frameSamples, mixed, silentFrame } from '../core/sound/frames'
import { type Heard, heardBy, heardByMailbox, heardByRecording } from '../core/sound/heard'
import { leavingOf } from '../core/sound/recording'
import { type Pieces, Recorder } from './recorder'
import type { Playing, Repertoire } from './repertoire'

/** Where what a telephone, or a party outside, hears goes to: one frame after the other. */
export interface Ear {
  device: DeviceId
  hear(frame: Int16Array): void
}

/** What somebody says: its next frame, or null while they say nothing. */
export interface Mouth {
  device: DeviceId
  next(): Int16Array | null
}

/** Made-up people say one thing after the other, and no more than so many samples ahead. */
const longestAhead = 30 * 8_000

/** Gives every ear, frame by frame, what `core/sound` says that it hears at this moment. */
export class Mixer {
  private readonly ears = new Map<Ear, Player>()
  /** Of several at one telephone the latest is its voice. */
  private readonly mouths = new Map<DeviceId, Mouth[]>()
  private readonly saying = new Map<DeviceId, { samples: Int16Array, at: number }[]>()
  private readonly recorders = new Map<string, { recorder: Recorder, mailbox: DeviceId | null, call: CallId }>()
  private recordedOf: ExchangeState | null = null
  private heard: { of: ExchangeState | null, by: Map<DeviceId, Heard> } = { of: null, by: new Map() }

  /** @param pieces take what is said to mailboxes */
  constructor(private readonly state: () => ExchangeState | null, private readonly repertoire: Repertoire, private readonly pieces: Pieces) {}

  get listening(): number {
    return this.ears.size
  }

  join(ear: Ear): void {
    this.ears.set(ear, new Player())
  }

  leave(ear: Ear): void {
    this.ears.delete(ear)
  }

  open(mouth: Mouth): void {
    this.mouths.set(mouth.device, [...this.mouths.get(mouth.device) ?? [], mouth])
  }

  close(mouth: Mouth): void {
    const others = this.mouths.get(mouth.device)?.filter(other => other !== mouth) ?? []
    if (others.length > 0) this.mouths.set(mouth.device, others)
    else this.mouths.delete(mouth.device)
  }

  /** Whether somebody speaks there themselves. */
  hasMouth(device: DeviceId): boolean {
    return this.mouths.has(device)
  }

  /** Somebody made up says something, after what they are saying. */
  say(device: DeviceId, samples: Int16Array): void {
    const queue = this.saying.get(device) ?? []
    const ahead = queue.reduce((sum, piece) => sum + piece.samples.length - piece.at, 0)
    if (ahead + samples.length <= longestAhead) this.saying.set(device, [...queue, { samples, at: 0 }])
  }

  /** One frame further. */
  tick(): void {
    const state = this.state()
    const spoken = new Map<DeviceId, Int16Array>()
    for (const device of this.saying.keys()) this.speak(device, state, spoken)
    // Whoever speaks themselves is heard, and nobody in their place.
    for (const [device, mouths] of this.mouths) {
      const frames = mouths.map(mouth => mouth.next())
      spoken.set(device, frames.at(-1) ?? silentFrame)
    }
    for (const [ear, player] of this.ears) ear.hear(this.frameFor(ear, player, state, spoken))
    if (state) this.record(state, spoken)
  }

  /** Every mailbox that has a call listens, and every recording, whoever else does. */
  private record(state: ExchangeState, spoken: ReadonlyMap<DeviceId, Int16Array>): void {
    if (this.recordedOf !== state) {
      this.recordedOf = state
      const left = new Map([...state.calls.values()].flatMap(call => [...takenOf(call)]))
      for (const [message, { recorder }] of this.recorders) {
        if (left.has(message)) continue
        recorder.end()
        this.recorders.delete(message)
      }
      for (const [message, { call, mailbox }] of left) {
        if (this.recorders.has(message)) continue
        const recorder = new Recorder(message, () => mailbox === null ? nothing : this.repertoire.greetingOf(mailbox, state), this.pieces)
        this.recorders.set(message, { recorder, mailbox, call })
      }
    }
    for (const { recorder, mailbox, call } of this.recorders.values()) {
      const its = state.calls.get(call)!
      const voices = mailbox === null ? heardByRecording(its) : heardByMailbox(its, mailbox).voices
      // Of a recording nothing is kept of the time in which nobody talks with anybody.
      if (mailbox !== null || voices.length > 0) recorder.take(mixed(voices.flatMap(voice => spoken.get(voice) ?? [])))
    }
  }

  /** Nobody speaks to a mailbox that has not finished: whoever is made up waits for its tone. */
  private waitsForTone(state: ExchangeState, device: DeviceId): boolean {
    const left = callsOf(state, device).map(leavingOf).find(one => one !== null)
    return left ? !(this.recorders.get(left.message)?.recorder.listens ?? false) : false
  }

  /** Speaking takes its time whether or not anybody hears it; whoever is on no call any more, and on no page, has nothing to say. */
  private speak(device: DeviceId, state: ExchangeState | null, spoken: Map<DeviceId, Int16Array>): void {
    const queue = this.saying.get(device)!
    const [piece] = queue
    if (!piece || !state || (callsOf(state, device).length === 0 && !ownPage(state, device) && !state.listenings.has(device))) {
      this.saying.delete(device)
      return
    }
    if (this.waitsForTone(state, device)) return
    spoken.set(device, frameAt(piece.samples, piece.at))
    piece.at += frameSamples
    if (piece.at >= piece.samples.length) queue.shift()
  }

  private frameFor({ device }: Ear, player: Player, state: ExchangeState | null, spoken: ReadonlyMap<DeviceId, Int16Array>): Int16Array {
    // Without the exchange nobody knows who may hear whom.
    if (!state) return silentFrame
    const heard = this.heardAt(state, device)
    const voices = [...heard.voices, ...heard.whispers, ...heard.page ? [heard.page] : []].flatMap(voice => spoken.get(voice) ?? [])
    const played = player.next(this.repertoire.playingAt(heard, device, state))
    return mixed(played ? [...voices, played] : voices)
  }

  private heardAt(state: ExchangeState, device: DeviceId): Heard {
    if (this.heard.of !== state) this.heard = { of: state, by: new Map() }
    let heard = this.heard.by.get(device)
    if (!heard) this.heard.by.set(device, heard = heardBy(state, device))
    return heard
  }
}

const nothing = new Int16Array(0)

/** What is taken down of a call, under the name that it keeps: in whose mailbox, or as its recording. */
function* takenOf(call: Call): Generator<[string, { call: CallId, mailbox: DeviceId | null }]> {
  const left = leavingOf(call)
  if (left) yield [left.message, left]
  const recording = recordingOf(call)
  if (recording) yield [recording, { call: call.id, mailbox: null }]
}

/** Plays at one ear what is played there: from its beginning when it is another than before, and what is said once before what goes on. */
class Player {
  private goesOn: { key: string, at: number } = { key: '', at: 0 }
  private once: { key: string, at: number } = { key: '', at: 0 }

  next({ goesOn, once }: Playing): Int16Array | null {
    if (once?.key !== this.once.key) this.once = { key: once?.key ?? '', at: 0 }
    if (goesOn?.key !== this.goesOn.key) this.goesOn = { key: goesOn?.key ?? '', at: 0 }
    const said = once?.samples()
    if (said && this.once.at < said.length) {
      const frame = frameAt(said, this.once.at)
      this.once.at += frameSamples
      return frame
    }
    // Until what is said once is made, what goes on is heard.
    if (!goesOn || goesOn.samples.length === 0) return null
    const frame = turnedFrameAt(goesOn.samples, this.goesOn.at)
    this.goesOn.at = (this.goesOn.at + frameSamples) % goesOn.samples.length
    return frame
  }
}

function frameAt(samples: Int16Array, at: number): Int16Array {
  if (at + frameSamples <= samples.length) return samples.subarray(at, at + frameSamples)
  const frame = new Int16Array(frameSamples)
  frame.set(samples.subarray(at))
  return frame
}

/** Of samples that are repeated without end. */
function turnedFrameAt(samples: Int16Array, at: number): Int16Array {
  if (at + frameSamples <= samples.length) return samples.subarray(at, at + frameSamples)
  return Int16Array.from({ length: frameSamples }, (_, index) => samples[(at + index) % samples.length]!)
}
