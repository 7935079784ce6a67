import type { MikroORM } from '@mikro-orm/postgresql'
import { mulaw } from 'alawmulaw'
import { describe, expect, it, vi } from 'vitest'
import wavefile from 'wavefile'
import type { SoundPiece } from '~~/shared/sound'
import { ownDatabase } from '../../tests/database/own'
import { Notices } from '../database/notices'
import { noSound, type SoundPort } from '../sound-link/sound-process'
import { MessageSound, wavOf } from './message-sound'

const own = ownDatabase()
const now = Date.now()

/** A sound process that keeps pieces until it is told that they are kept elsewhere. */
function port(pieces: SoundPiece[], told: number[][] = []): SoundPort {
  return {
    ...noSound,
    pieces: () => Promise.resolve(pieces.slice(0, 2)),
    kept: (places) => {
      told.push([...places])
      for (const place of places) pieces.splice(pieces.findIndex(piece => piece.place === place), 1)
      return Promise.resolve()
    },
  }
}
const piece = (message: string, place: number, value: number): SoundPiece =>
  ({ message, place, sound: Buffer.from(mulaw.encode(new Int16Array(800).fill(value))).toString('base64') })

describe('the sound of a message', () => {
  it('is written piece by piece, in their order whatever the order they came in, and let go where it was once it is', async () => {
    const told: number[][] = []
    const pieces = [piece('voice-a-1-5', now + 20, 2_000), piece('voice-a-1-5', now + 10, 1_000), piece('voice-b-1-5', now + 30, 4_000)]
    const keeper = new MessageSound(own.orm, port(pieces, told), () => {}, () => 90)
    await keeper.look()
    keeper.close()
    expect([pieces, told]).toEqual([[], [[now + 20, now + 10], [now + 30]]])
    const file = new wavefile.WaveFile((await wavOf(own.orm, 'voice-a-1-5'))!)
    const samples = file.getSamples(false, Int16Array as never) as unknown as Int16Array
    const { numChannels, sampleRate, bitsPerSample, audioFormat } = file.fmt as Record<string, number>
    expect([numChannels, sampleRate, bitsPerSample, audioFormat]).toEqual([1, 8_000, 16, 1])
    expect([samples.length, Math.round(samples[5]! / 100), Math.round(samples[1_000]! / 100)]).toEqual([1_600, 10, 20])
    expect(await wavOf(own.orm, 'voice-c-1-5')).toBeNull()
  })

  it('is written once, however many servers fetch it; nothing is let go that was not written, and it is said once', async () => {
    const pieces = [piece('voice-d-1-5', now, 1_000)]
    const first = new MessageSound(own.orm, port([...pieces]), () => {}, () => 90)
    const second = new MessageSound(own.orm, port([...pieces]), () => {}, () => 90)
    await Promise.all([first.look(), second.look()])
    for (const keeper of [first, second]) keeper.close()
    expect((await wavOf(own.orm, 'voice-d-1-5'))!.length).toBe(44 + 1_600)

    const [said, told]: [string[], number[][]] = [[], []]
    const kept = [piece('voice-e-1-5', 10, 1_000)]
    const away = { em: { fork: () => ({ execute: () => Promise.reject(new Error('connect ECONNREFUSED')) }) } } as unknown as MikroORM
    const failing = new MessageSound(away, port(kept, told), text => said.push(text), () => 90)
    await failing.look()
    await failing.look()
    failing.close()
    expect([kept.length, told, said.length]).toEqual([1, [], 1])
  })

  it('whoever reads a message hears of it when more of it comes', async () => {
    await own.sql(`insert into message (id, kind, "to", "from", from_name, text, urgent, call_back, at)
      values ('voice-told-1-5', 'voice', 't2107', '', '', '', false, false, now())`)
    const heard: string[] = []
    const listener = new Notices(own.url)
    listener.on('messages', payload => heard.push(payload))
    const listens = new Promise<void>(resolve => listener.onListening(resolve))
    void listener.listen()
    await listens
    const keeper = new MessageSound(own.orm, port([piece('voice-told-1-5', now + 1, 1), piece('voice-other-1-5', now + 2, 1)]), () => {}, () => 90)
    await keeper.look()
    keeper.close()
    await vi.waitFor(() => expect(heard).toEqual(['["t2107"]']))
    await listener.close()
  })

  it('is let go after a day when no message came of it, or it was deleted', async () => {
    const long = Date.now() - 25 * 60 * 60_000
    await own.orm.em.fork().execute(`insert into message (id, kind, "to", "from", from_name, text, urgent, call_back, at)
      values ('voice-kept-1-5', 'voice', 't2100', '', '', '', false, false, now())`)
    await own.orm.em.fork().execute(`insert into message (id, kind, "to", "from", from_name, text, urgent, call_back, at, deleted_at) values
      ('voice-gone-1-5', 'voice', 't2100', '', '', '', false, false, now(), now() - interval '25 hours'),
      ('voice-back-1-5', 'voice', 't2100', '', '', '', false, false, now(), now() - interval '23 hours')`)
    const pieces = [
      piece('voice-gone-1-5', now + 1, 1), piece('voice-back-1-5', now + 2, 1),
      piece('voice-kept-1-5', long, 1), piece('voice-old-1-5', long + 1, 1), piece('voice-new-1-5', now, 1),
    ]
    const keeper = new MessageSound(own.orm, port(pieces), () => {}, () => 90)
    await keeper.look()
    keeper.close()
    const there = await Promise.all(['kept', 'old', 'new', 'gone', 'back'].map(async which => await wavOf(own.orm, `voice-${which}-1-5`) !== null))
    expect(there).toEqual([true, false, true, false, true])
  })
})
