import { mulaw } from 'alawmulaw'
import { describe, expect, it } from 'vitest'
import { mailboxOf } from '../core/calls/names'
import { Tryout } from '../core/calls/tryout'
import { frameSamples, sampleRate } from '../core/sound/frames'
import { heardBy, loudspeakerEar } from '../core/sound/heard'
import { greetingPlace, linePlace, musicPlace, tonePlace } from '../core/sound/own-sounds'
import { heightOf } from '../core/sound/tone'
import { OwnSounds } from './own-sounds'
import { Repertoire } from './repertoire'

const spoken = new Int16Array(frameSamples).fill(7)

function playing(canSpeak = true) {
  const house = new Tryout()
  const said: string[] = []
  const own = new OwnSounds()
  const repertoire = new Repertoire({
    speak: (text) => {
      said.push(text)
      return Promise.resolve(canSpeak ? spoken : null)
    },
  }, own)
  const at = (device: string) => repertoire.playingAt(heardBy(house.state, device), device, house.state)
  const bring = (place: string, value: number, version = '1') => own.take(place, version, mulaw.encode(new Int16Array(800).fill(value)))
  return { house, said, at, bring }
}
const heights = (samples: Int16Array, ...hertz: number[]) => hertz.map(one => heightOf(one, Float32Array.from(samples), sampleRate) > 100)

describe('what is played at an ear', () => {
  it('is the tone of the country while it rings, music on hold, and nothing while one talks', () => {
    const { house, at } = playing()
    const call = house.offer()
    const { calling } = house.call(call)
    const ringing = at(calling)
    expect([ringing.goesOn?.key, ringing.once]).toEqual(['ringing', null])
    expect(heights(ringing.goesOn!.samples.subarray(0, 3_200), 400, 450, 1_000)).toEqual([true, true, false])
    expect(at('t2100')).toEqual({ goesOn: null, once: null })
    house.must({ service: 'answerCall', device: 't2100', call })
    expect(at(calling)).toEqual({ goesOn: null, once: null })
    house.must({ service: 'holdCall', device: 't2100', call })
    const music = at(calling).goesOn!
    expect(music.key).toBe('music')
    expect(music.samples.length).toBeGreaterThan(10 * sampleRate)
    expect(at(calling).goesOn!.samples, 'made once').toBe(music.samples)
  })

  it('is the house\'s own tone once it has one', () => {
    const { house, at } = playing()
    const { calling } = house.call(house.offer())
    const { company } = house.state
    const settings = { ...company.settings, tones: { ...company.settings.tones, ringing: '600: 1 on 2 off' } }
    house.state = { ...house.state, company: { ...company, settings } }
    expect(heights(at(calling).goesOn!.samples.subarray(0, 4_000), 400, 600)).toEqual([false, true])
  })

  it('a gong comes before a page at a loudspeaker, once for each, and at no telephone', () => {
    const { house, at } = playing()
    const zone = Object.values(house.state.company.zones)[0]!
    house.must({ service: 'openPage', device: 't2100', to: zone.id, rank: 'ordinary' })
    const ear = loudspeakerEar(zone.speakers[0]!)
    const { goesOn, once } = at(ear)
    expect(goesOn).toBeNull()
    expect(heights(once!.samples()!.subarray(0, 2_000), 660, 1_000)).toEqual([true, false])
    expect(at(ear).once!.key).toBe(once!.key)
    house.must({ service: 'closePage', device: 't2100', page: [...house.state.pages.keys()][0]! })
    expect(at(ear)).toEqual({ goesOn: null, once: null })
    house.must({ service: 'openPage', device: 't2100', to: zone.id, rank: 'ordinary' })
    expect(at(ear).once!.key).not.toBe(once!.key)
    expect(at('t2105')).toEqual({ goesOn: null, once: null })
  })

  it('a soft tone tells everybody in a call that somebody has begun to listen, once for each, and whoever listens nothing', () => {
    const { house, at } = playing()
    const call = house.inHand('t2101')
    const { calling } = house.call(call)
    expect(at(calling).once).toBeNull()
    house.must({ service: 'listenIn', device: 't2100', call, to: 't2101' })
    const first = at(calling).once!
    expect([at('t2101').once?.key, at('t2100')]).toEqual([first.key, { goesOn: null, once: null }])
    expect(heights(first.samples()!, 1_400, 1_000)).toEqual([true, false])
    house.must({ service: 'whisper', device: 't2100', call, on: true })
    expect(at(calling).once!.key).toBe(first.key)
    house.must({ service: 'stopListening', device: 't2100' })
    house.now += 1_000
    house.must({ service: 'listenIn', device: 't2100', call, to: 't2101' })
    expect(at(calling).once!.key).not.toBe(first.key)
  })

  it('a mailbox says what its owner has written for the time being', () => {
    const { house, said, at } = playing()
    house.must({ service: 'setGreeting', device: 't2106', when: 'lunch', text: 'Back at two.' })
    const call = house.inHand('t2100')
    house.must({ service: 'singleStepTransferCall', device: 't2100', call, to: 'mailbox:t2106' })
    const { calling } = house.call(call)
    at(calling).once!.samples()
    house.must({ service: 'setStatus', device: 't2106', reason: 'lunch', until: null })
    at(calling).once!.samples()
    expect(said).toEqual([expect.stringContaining('Dagny Netherby'), 'Back at two.'])
  })

  it('a mailbox says whose it is and then sounds its tone, once; where nobody can speak the tone comes alone', async () => {
    for (const canSpeak of [true, false]) {
      const { house, said, at } = playing(canSpeak)
      const call = house.offer()
      const { calling } = house.call(call)
      house.must({ service: 'answerCall', device: 't2100', call })
      house.must({ service: 'singleStepTransferCall', device: 't2100', call, to: mailboxOf('t2105') })
      const { goesOn, once } = at(calling)
      expect(goesOn).toBeNull()
      expect(once!.samples()).toBeNull()
      await Promise.resolve()
      await new Promise(resolve => setImmediate(resolve))
      const samples = once!.samples()!
      expect(said).toEqual([`This is the voicemail of ${house.state.company.telephones.t2105!.name}. Please speak after the tone.`])
      expect(samples.length).toBe((canSpeak ? frameSamples : 0) + 0.4 * sampleRate)
      expect(heights(samples.subarray(samples.length - 800), 1_000, 400)).toEqual([true, false])
      expect(at(calling).once!.key).toBe(once!.key)
    }
  })

  it('is what somebody has brought in the place of music, a tone and a greeting, from its beginning when it is another', () => {
    const { house, said, at, bring } = playing()
    const level = (samples: Int16Array | null | undefined) => samples && Math.round(samples[0]! / 100)
    bring(musicPlace, 1_000)
    bring(tonePlace('ringing'), 2_000)
    bring(greetingPlace('t2106', 'usual'), 3_000)
    const call = house.offer()
    const { calling } = house.call(call)
    expect(level(at(calling).goesOn?.samples)).toBe(20)
    house.must({ service: 'answerCall', device: 't2100', call })
    house.must({ service: 'holdCall', device: 't2100', call })
    const { goesOn } = at(calling)
    expect(level(goesOn?.samples)).toBe(10)
    bring(musicPlace, 4_000, '2')
    expect(level(at(calling).goesOn?.samples)).toBe(41)
    expect(at(calling).goesOn!.key).not.toBe(goesOn!.key)
    house.must({ service: 'retrieveCall', device: 't2100', call })
    house.must({ service: 'singleStepTransferCall', device: 't2100', call, to: mailboxOf('t2106') })
    const greeting = at(calling).once!.samples()!
    expect([level(greeting), greeting.length > 800, said]).toEqual([30, true, []])
  })

  it('is what a line says, to whoever called it, once while it rings, until somebody has answered; where it says nothing, the tone alone', () => {
    const { house, at, bring } = playing()
    const call = house.offer()
    const { calling } = house.call(call)
    expect(at(calling).once).toBeNull()
    bring(linePlace(house.call(call).line!), 1_000)
    const { once, goesOn } = at(calling)
    expect([once!.samples()!.length, goesOn!.key]).toEqual([800, 'ringing'])
    expect(at(calling).once!.key).toBe(once!.key)
    expect(at('t2100').once).toBeNull()
    house.must({ service: 'answerCall', device: 't2100', call })
    house.must({ service: 'singleStepTransferCall', device: 't2100', call, to: 't2108' })
    expect([at(calling).once, at(calling).goesOn?.key]).toEqual([null, 'ringing'])
  })
})
