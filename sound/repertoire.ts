import type { DeviceId, ExchangeState } from '../core/calls/model'
import { deviceName } from '../core/calls/names'
import { ownPage } from '../core/calls/paging/pages'
import { tellPlace } from '../core/queues/expected-wait'
import { asPcm, sampleRate } from '../core/sound/frames'
import { callHeardAt, type Heard, isLoudspeakerEar, noticeOf, toneOf } from '../core/sound/heard'
import { holdMusic } from '../core/sound/music'
import { greetingAt, linePlace, musicPlace, tonePlace } from '../core/sound/own-sounds'
import { leavingOf } from '../core/sound/recording'
import { toneSamples } from '../core/sound/tone'
import type { Voice } from '../core/sound/voices'
import { phrase, spoken } from '../words/phrase'
import { t } from './language'
import type { OwnSounds } from './own-sounds'

/** What is heard at one ear beside voices: something that is repeated, and before it something that is said once. */
export interface Playing {
  goesOn: { key: string, samples: Int16Array } | null
  /** `samples` gives null while it is being made, and for good where it can't be. */
  once: { key: string, samples: () => Int16Array | null } | null
}

/** Makes speech of words; samples at 8 kHz, or null where that can't be done. */
export interface Speech {
  speak(text: string, voice: Voice): Promise<Int16Array | null>
}

const nothing: Playing = { goesOn: null, once: null }
/** The house's own voice, for everything that no person says. */
const ofTheHouse: Voice = { kind: 0, pitch: 50, pace: 150 }
const toneLevel = 0.12
/** Before a page sounds at a loudspeaker: two notes that fade. */
const gong = asPcm(Float32Array.from([660, 528].flatMap(hertz => [...gongNote(hertz)])))
/** Says to everybody in a call that somebody has begun to listen. */
const softTone = asPcm(toneSamples([{ frequencies: [1_400], milliseconds: 200 }], sampleRate, 0.06))
/** Says to everybody in a call that it is recorded from now on: two notes. */
const recordingTone = asPcm(toneSamples([{ frequencies: [1_000], milliseconds: 200 }, { frequencies: [1_200], milliseconds: 200 }], sampleRate, 0.12))
const beep = asPcm(toneSamples([{ frequencies: [1_000], milliseconds: 400 }], sampleRate, 0.2))
/** A greeting, and the tone after it that says to speak; where nobody can speak the tone alone. */
export function withBeep(greeting: Int16Array | null): Int16Array {
  const whole = new Int16Array((greeting?.length ?? 0) + beep.length)
  if (greeting) whole.set(greeting)
  whole.set(beep, greeting?.length ?? 0)
  return whole
}
/** What the house says is made once and kept; so many of its sentences. */
const mostSentences = 200

function gongNote(hertz: number): Float32Array {
  const [seconds, level, halfLife] = [0.6, 0.25, 0.2]
  return Float32Array.from({ length: seconds * sampleRate }, (_, at) => {
    const since = at / sampleRate
    return level * 2 ** (-since / halfLife) * Math.sin(2 * Math.PI * hertz * since)
  })
}

/** Music, tones and what the house says by itself, as it is played at an ear. */
export class Repertoire {
  private readonly music = asPcm(holdMusic(sampleRate))
  private tones: { of: object | null, made: Map<string, Int16Array> } = { of: null, made: new Map() }
  private readonly sentences = new Map<string, Int16Array | null>()

  constructor(private readonly speech: Speech, private readonly own: OwnSounds) {}

  playingAt(heard: Heard, device: DeviceId, state: ExchangeState): Playing {
    const { tone, music, announcement, page } = heard
    if (page && isLoudspeakerEar(device)) return { goesOn: null, once: { key: `gong ${ownPage(state, page)?.id}`, samples: () => gong } }
    if (!tone && !music && !announcement) return nothing
    return {
      goesOn: tone ? this.ownOr(tonePlace(tone), tone, () => this.tone(state, tone)) : music ? this.ownOr(musicPlace, 'music', () => this.music) : null,
      once: announcement && this.announcement(announcement, device, state),
    }
  }

  /** What somebody has brought, else what the house plays by itself. */
  private ownOr(place: string, key: string, samples: () => Int16Array): NonNullable<Playing['goesOn']> {
    const own = this.own.at(place)
    return own ? { key: `${key} ${own.version}`, samples: own.samples } : { key, samples: samples() }
  }

  private tone(state: ExchangeState, kind: NonNullable<Heard['tone']>): Int16Array {
    const { settings } = state.company
    if (this.tones.of !== settings) this.tones = { of: settings, made: new Map() }
    let samples = this.tones.made.get(kind)
    if (!samples) this.tones.made.set(kind, samples = asPcm(toneSamples(toneOf(settings, kind), sampleRate, toneLevel)))
    return samples
  }

  private announcement(kind: NonNullable<Heard['announcement']>, device: DeviceId, state: ExchangeState): Playing['once'] {
    const call = callHeardAt(state, device)
    if (!call) return null
    if (kind === 'place') {
      const { told } = call
      return told
        ? { key: `place ${call.id} ${told.at}`,
            samples: () => this.made(spoken(t, tellPlace(told)), text => this.speech.speak(text, ofTheHouse)) }
        : null
    }
    if (kind === 'line') {
      const own = this.own.at(linePlace(call.line!))
      return own ? { key: `line ${call.id}`, samples: () => own.samples } : null
    }
    if (kind === 'notice') {
      const notice = noticeOf(state, call)
      return notice && { key: `${notice.of} ${call.id} ${notice.at}`, samples: () => notice.of === 'recording' ? recordingTone : softTone }
    }
    const left = leavingOf(call)
    return left && { key: left.message, samples: () => this.greetingOf(left.mailbox, state) }
  }

  /** What a mailbox says, with its tone; null until it is made. */
  greetingOf(mailbox: DeviceId, state: ExchangeState): Int16Array | null {
    const name = deviceName(state.company, mailbox) ?? phrase('names.aVoicemail')
    const own = greetingAt(state, mailbox, place => this.own.at(place) !== undefined)
    if (own && 'sound' in own) return this.own.at(own.sound)!.withBeep
    return this.made(own?.text ?? spoken(t, phrase('callers.thisIsTheVoicemail', { name })), text => this.withBeep(text))
  }

  private async withBeep(text: string): Promise<Int16Array> {
    return withBeep(await this.speech.speak(text, ofTheHouse))
  }

  /** Made once and kept; null until it is. */
  private made(text: string, make: (text: string) => Promise<Int16Array | null>): Int16Array | null {
    const known = this.sentences.get(text)
    if (known !== undefined) return known
    if (this.sentences.size >= mostSentences) this.sentences.clear()
    this.sentences.set(text, null)
    void make(text).then(samples => this.sentences.set(text, samples))
    return null
  }
}
