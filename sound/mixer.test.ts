import { mulaw } from 'alawmulaw'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { DeviceId, ExchangeState } from '../core/calls/model'
import { mailboxOf } from '../core/calls/names'
import { Tryout } from '../core/calls/tryout'
import { begin, carryOut, devices, requestOf, runsOf, start, waitOf, wish } from '../core/calls/wishes'
import { frameSamples, sampleRate } from '../core/sound/frames'
import { heardBy, isLoudspeakerEar, loudspeakerEar } from '../core/sound/heard'
import { leavingOf } from '../core/sound/recording'
import { heightOf } from '../core/sound/tone'
import { Mixer, type Mouth } from './mixer'
import { Pieces } from './recorder'
import type { Playing, Repertoire } from './repertoire'

const seed = Number(process.env.LAW_SEED ?? Date.now() % 1_000_000)
const greeting = new Int16Array(4 * frameSamples)
const silent = { playingAt: (): Playing => ({ goesOn: null, once: null }), greetingOf: () => greeting } as unknown as Repertoire
const pieces = new Pieces(() => {})

/** Tones that can be told apart in one frame. */
const spacing = sampleRate / frameSamples
const highest = 3_500
const loudness = 900

const toneFrame = (hertz: number, level: number) =>
  Int16Array.from({ length: frameSamples }, (_, at) => Math.round(level * Math.sin(2 * Math.PI * hertz * at / sampleRate)))

/** Everybody's tone is their own; at each ear it is measured whose can be heard. */
class Room {
  readonly mixer: Mixer
  private readonly tones = new Map<DeviceId, number>()
  private readonly loudspeakers = new Set<string>()
  private readonly frames = new Map<DeviceId, Int16Array>()

  constructor(public state: ExchangeState) {
    this.mixer = new Mixer(() => this.state, silent, pieces)
  }

  /** An ear without a mouth. */
  put(loudspeaker: string): void {
    this.loudspeakers.add(loudspeakerEar(loudspeaker))
    this.mixer.join({ device: loudspeakerEar(loudspeaker), hear: heard => this.frames.set(loudspeakerEar(loudspeaker), heard) })
  }

  get full(): boolean {
    return this.tones.size * spacing >= highest - 4 * spacing
  }

  enter(device: DeviceId): void {
    if (this.tones.has(device) || this.full) return
    const hertz = (this.tones.size + 3) * spacing
    this.tones.set(device, hertz)
    const frame = toneFrame(hertz, loudness)
    this.mixer.open({ device, next: () => frame })
    this.mixer.join({ device, hear: heard => this.frames.set(device, heard) })
  }

  /** Whom each of those in the room hears in the next frame. */
  listen(): Map<DeviceId, DeviceId[]> {
    this.mixer.tick()
    return new Map([...this.tones.keys(), ...this.loudspeakers].map((ear) => {
      const samples = Float32Array.from(this.frames.get(ear)!)
      return [ear, [...this.tones].flatMap(([device, hertz]) => heightOf(hertz, samples, sampleRate) > loudness / 2 ? [device] : [])]
    }))
  }
}

/** A house in which somebody whispers to a colleague who talks: by chance alone that would be rare. */
function whispering(): ExchangeState {
  const [supervisor, colleague] = devices as [DeviceId, DeviceId]
  const offered = carryOut(begin('sound'), { service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' }, start).state
  const [call] = [...offered.calls.keys()] as [string]
  return [
    { service: 'answerCall' as const, device: colleague, call }, { service: 'listenIn' as const, device: supervisor, call, to: colleague },
    { service: 'whisper' as const, device: supervisor, call, on: true },
  ].reduce((state, request) => carryOut(state, request, start).state, offered)
}

describe('what comes out of the mixer', () => {
  it(`is at every ear what the state says, after any requests of anybody (seed ${seed})`, () => {
    let [talked, paged, whispered] = [0, 0, 0]
    fc.assert(fc.property(fc.array(wish, { minLength: 30, maxLength: 70 }), (wishes) => {
      const room = new Room(whispering())
      let now = start
      for (const device of devices.slice(0, 30)) room.enter(device)
      for (const { speakers } of Object.values(room.state.company.zones)) for (const speaker of speakers) room.put(speaker)
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(room.state, wanted)
        if (!request) continue
        room.state = carryOut(room.state, request, now).state
        for (const { calling } of room.state.calls.values()) room.enter(calling)
        const heard = room.listen()
        for (const [ear, voices] of heard) {
          const { voices: expected, whispers, page } = heardBy(room.state, ear)
          const inRoom = [...expected, ...whispers, ...page ? [page] : []].filter(device => heard.has(device))
          if ([...voices].sort().join() !== inRoom.sort().join())
            throw new Error(`after ${JSON.stringify(request)} ${ear} hears ${voices.join()} instead of ${inRoom.join()}`)
          talked += voices.length
          whispered += whispers.length
          if (isLoudspeakerEar(ear)) paged += voices.length
        }
      }
    }), { numRuns: runsOf(120), seed, endOnFailure: true })
    expect(talked).toBeGreaterThan(100)
    expect(paged).toBeGreaterThan(10)
    expect(whispered).toBeGreaterThan(0)
  }, 120_000)

  const tone = (hertz: number) => toneFrame(hertz, 1_000)
  const height = (hertz: number, frame: Int16Array) => Math.round(heightOf(hertz, Float32Array.from(frame), sampleRate))

  function talking() {
    const house = new Tryout()
    const call = house.offer()
    house.must({ service: 'answerCall', device: 't2100', call })
    const { calling } = house.call(call)
    const heard: Int16Array[] = []
    const mixer = new Mixer(() => house.state, silent, pieces)
    const ear = { device: 't2100', hear: (frame: Int16Array) => heard.push(frame) }
    mixer.join(ear)
    return { house, call, calling, heard, mixer, ear }
  }

  it('is the latest mouth of a telephone, and the one before it when that has gone', () => {
    const { mixer, calling, heard } = talking()
    const mouth = (hertz: number): Mouth => ({ device: calling, next: () => tone(hertz) })
    const [first, second] = [mouth(400), mouth(800)]
    mixer.open(first)
    mixer.open(second)
    mixer.tick()
    mixer.close(second)
    mixer.tick()
    mixer.close(first)
    mixer.tick()
    expect(heard.map(frame => [height(400, frame), height(800, frame)])).toEqual([[0, 1_000], [1_000, 0], [0, 0]])
    expect(mixer.hasMouth(calling)).toBe(false)
  })

  it('made-up people say one thing after the other, a frame at a time; not beside their own microphone, and no more once they have hung up', () => {
    const { mixer, calling, heard, house, call } = talking()
    mixer.say(calling, Int16Array.from([...tone(400), ...tone(600).slice(0, 80)]))
    mixer.say(calling, tone(800))
    for (let i = 0; i < 4; i++) mixer.tick()
    expect(heard.map(frame => [400, 600, 800].map(hertz => height(hertz, frame)))).toEqual([[1_000, 0, 0], [0, 500, 0], [0, 0, 1_000], [0, 0, 0]])
    mixer.say(calling, tone(400))
    const mouth = { device: calling, next: () => null }
    mixer.open(mouth)
    mixer.tick()
    expect(height(400, heard.at(-1)!)).toBe(0)
    mixer.close(mouth)
    mixer.say(calling, Int16Array.from([...tone(400), ...tone(400)]))
    house.must({ service: 'clearConnection', device: calling, call })
    mixer.tick()
    expect(height(400, heard.at(-1)!)).toBe(0)
  })

  it('a mailbox writes down what is said to it after its greeting, and made-up people wait for that', () => {
    const { house, call, calling } = talking()
    const kept = new Pieces(() => {}, () => 1_000)
    const mixer = new Mixer(() => house.state, silent, kept)
    house.must({ service: 'singleStepTransferCall', device: 't2100', call, to: mailboxOf('t2105') })
    const { message } = leavingOf(house.call(call))!
    mixer.say(calling, Int16Array.from([...tone(400), ...tone(600)]))
    for (let i = 0; i < 4 + 3; i++) mixer.tick()
    expect(kept.oldest(9)).toEqual([])
    house.must({ service: 'clearConnection', device: calling, call })
    mixer.tick()
    const [piece, ...more] = kept.oldest(9)
    expect([piece!.message, piece!.place, more.length]).toEqual([message, 1_000, 0])
    const samples = mulaw.decode(Buffer.from(piece!.sound, 'base64'))
    const frames = [0, 1, 2].map(at => [...samples.subarray(at * frameSamples, (at + 1) * frameSamples)])
    expect(samples.length).toBe(3 * frameSamples)
    expect(frames.map(frame => [400, 600].map(hertz => Math.round(height(hertz, Int16Array.from(frame)) / 100)))).toEqual([[10, 0], [0, 10], [0, 0]])
  })

  it('what a caller says into a microphone is written down in pieces of two seconds, in their order, until they are kept', () => {
    const { house, call, calling } = talking()
    const kept = new Pieces(() => {}, () => 1_000)
    const mixer = new Mixer(() => house.state, silent, kept)
    mixer.open({ device: calling, next: () => tone(400) })
    house.must({ service: 'singleStepTransferCall', device: 't2100', call, to: mailboxOf('t2105') })
    for (let i = 0; i < 4 + 201; i++) mixer.tick()
    expect(kept.oldest(9).map(({ place, sound }) => [place, Buffer.from(sound, 'base64').length])).toEqual([[1_000, 16_000], [1_001, 16_000]])
    expect(kept.oldest(1)).toHaveLength(1)
    kept.kept([1_000, 5])
    expect(kept.oldest(9).map(({ place }) => place)).toEqual([1_001])
    house.must({ service: 'clearConnection', device: calling, call })
    mixer.tick()
    expect(kept.oldest(9).map(({ sound }) => Buffer.from(sound, 'base64').length)).toEqual([16_000, 160])
  })

  it('what nobody fetches is let go after an hour, the oldest first, and it is said', () => {
    const said: string[] = []
    const kept = new Pieces(text => said.push(text), () => 0)
    const minute = new Uint8Array(60 * sampleRate)
    for (let i = 0; i < 61; i++) kept.add('m', minute)
    expect(said).toHaveLength(1)
    const places = kept.oldest(99).map(({ place }) => place)
    expect([places[0], places.at(-1), places.length]).toEqual([32, 61, 30])
  })

  it('nobody says more than half a minute ahead', () => {
    const { mixer, calling, heard } = talking()
    mixer.say(calling, new Int16Array(30 * sampleRate))
    mixer.say(calling, tone(400))
    for (let i = 0; i < 30 * 50 + 1; i++) mixer.tick()
    expect(height(400, heard.at(-1)!)).toBe(0)
  })

  it('whoever has left hears nothing more, and without the exchange nobody hears anybody', () => {
    const { mixer, calling, heard, ear } = talking()
    mixer.open({ device: calling, next: () => tone(400) })
    mixer.leave(ear)
    mixer.tick()
    expect([heard.length, mixer.listening]).toEqual([0, 0])
    const alone = new Mixer(() => null, silent, pieces)
    alone.join(ear)
    alone.open({ device: 't2100', next: () => tone(400) })
    alone.tick()
    expect([...heard[0]!].every(sample => sample === 0)).toBe(true)
  })

  it('plays what is said once before what goes on, each from its beginning, and turns what goes on without a seam', () => {
    const { house, heard } = talking()
    let playing: Playing = { goesOn: null, once: null }
    const mixer = new Mixer(() => house.state, { playingAt: () => playing } as unknown as Repertoire, pieces)
    mixer.join({ device: 't2100', hear: frame => heard.push(frame) })
    const ramp = (length: number, from: number) => Int16Array.from({ length }, (_, at) => from + at)
    const first = () => heard.at(-1)![0]
    let said: Int16Array | null = null
    const music = { key: 'music', samples: ramp(200, 1) }
    playing = { goesOn: music, once: { key: 'place 1', samples: () => said } }
    mixer.tick()
    expect(first(), 'what is still being made keeps nobody waiting').toBe(1)
    said = ramp(200, 10_000)
    mixer.tick()
    expect(first()).toBe(10_000)
    mixer.tick()
    expect([first(), heard.at(-1)![39], heard.at(-1)![40]]).toEqual([10_160, 10_199, 0])
    mixer.tick()
    expect([first(), heard.at(-1)![39], heard.at(-1)![40]]).toEqual([161, 200, 1])
    playing = { goesOn: music, once: { key: 'place 2', samples: () => said } }
    mixer.tick()
    expect(first()).toBe(10_000)
    playing = { goesOn: { key: 'ringing', samples: ramp(400, 500) }, once: null }
    mixer.tick()
    expect(first()).toBe(500)
  })
})
