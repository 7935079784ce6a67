import { mulaw } from 'alawmulaw'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import wavefile from 'wavefile'
import { merrowby } from '~~/demo/company/merrowby'
import type { SignedIn } from '~~/shared/people'
import { type Right, rightsAtFirst } from '~~/shared/rights'
import type { SoundAtPlace } from '~~/shared/own-sounds'
import { ownDatabase } from '../../tests/database/own'
import { Notices } from '../database/notices'
import { noSound, type SoundPort } from '../sound-link/sound-process'
import { mayKeepSound, readSound } from './brought'
import { OwnSounds } from './own-sounds'

const own = ownDatabase()
const at = new Date('2031-05-12T09:00:00Z')
const sound = (value: number, seconds = 1) => mulaw.encode(new Int16Array(8_000 * seconds).fill(value))

/** A sound process that has forgotten everything when it begins anew. */
function process(): SoundPort & { has: Map<string, { version: string, sound: Buffer }>, away: boolean } {
  const has = new Map<string, { version: string, sound: Buffer }>()
  const port = {
    ...noSound, has, away: false,
    wants: (kept: readonly SoundAtPlace[]) => {
      if (port.away) return Promise.resolve(null)
      for (const place of has.keys()) if (!kept.some(one => one.place === place)) has.delete(place)
      return Promise.resolve(kept.filter(({ place, version }) => has.get(place)?.version !== version))
    },
    give: ({ place, version, sound }: SoundAtPlace & { sound: Buffer }) => {
      has.set(place, { version, sound })
      return Promise.resolve()
    },
  }
  return port
}

describe('sounds that somebody has brought', () => {
  let port: ReturnType<typeof process>
  let notices: Notices
  let sounds: OwnSounds
  beforeEach(async () => {
    await own.sql('delete from own_sound')
    port = process()
    notices = new Notices(own.url)
    sounds = new OwnSounds(own.orm, notices, port, () => {})
    const listens = new Promise<void>(resolve => notices.onListening(resolve))
    void notices.listen()
    await listens
  })
  afterEach(async () => {
    sounds.close()
    await notices.close()
  })
  const first = (place: string) => port.has.get(place)?.sound[0]

  it('are given to the sound process, again when it has begun anew, in their newest version, and taken from it', async () => {
    await sounds.keep('music', sound(1_000), 'waltz.wav', 'admin', at)
    await vi.waitFor(() => expect(first('music')).toBe(sound(1_000)[0]), { timeout: 5_000 })
    port.has.clear()
    await vi.waitFor(() => expect(first('music')).toBe(sound(1_000)[0]), { timeout: 5_000 })
    await sounds.keep('music', sound(2_000), '', 'admin', at)
    await vi.waitFor(() => expect(first('music')).toBe(sound(2_000)[0]), { timeout: 5_000 })
    expect([await sounds.remove('music'), await sounds.remove('music')]).toEqual([true, false])
    await vi.waitFor(() => expect(port.has.size).toBe(0), { timeout: 5_000 })
    expect(await sounds.soundAt('music')).toBeNull()
  })

  it('wait for a sound process that is away, and are listed with who has brought them, from what, and how long they are', async () => {
    port.away = true
    await sounds.keep('line:general', sound(1_000, 2), 'hello.wav', 'admin', at)
    await sounds.keep('music', sound(1_000, 3), '', 'somebody who has gone', at)
    expect(port.has.size).toBe(0)
    const list = await sounds.list(place => place !== 'tone:busy')
    expect(list.map(({ place, seconds, name, at }) => [place, seconds, name, at])).toEqual([['line:general', 2, 'hello.wav', +at], ['music', 3, '', +at]])
    expect(list.map(({ by }) => by)).toEqual([expect.not.stringMatching(/^admin$/), 'somebody who has gone'])
    expect(await sounds.list(place => place === 'music')).toHaveLength(1)
    port.away = false
    await vi.waitFor(() => expect(port.has.size).toBe(2), { timeout: 5_000 })
  })
})

describe('who may keep a sound', () => {
  const company = merrowby(40)
  const person = (rights: readonly Right[], device: string | null) => ({ rights, device }) as unknown as SignedIn
  const [ines, admin] = [person(rightsAtFirst.operator, 't2100'), person(rightsAtFirst.administrator, null)]

  it.each([
    ['greeting:usual:t2100', true, false], ['greeting:lunch:t2100', true, false], ['greeting:usual:t2101', false, false],
    ['greeting:usual:general', false, true], ['music', false, true], ['tone:busy', false, true], ['line:general', false, true],
    ['line:nowhere', false, false], ['greeting:usual:', false, false],
  ])('%s: its owner %s, the administrator %s', (place, owner, house) => {
    expect([mayKeepSound(ines, company, place), mayKeepSound(admin, company, place)]).toEqual([owner, house])
    expect(mayKeepSound(person([], null), company, place)).toBe(false)
  })
})

describe('what is taken for a sound', () => {
  const wav = (samples: number, rate = 8_000, channels = 1, bits = '16') => {
    const file = new wavefile.WaveFile()
    const each = new Array<number>(samples).fill(bits === '32f' ? 0.5 : 100)
    file.fromScratch(channels, rate, bits, channels === 1 ? each : Array.from({ length: channels }, () => each))
    return file.toBase64()
  }
  const problem = (file: string, place = 'music') => {
    try {
      return readSound(file, place).length
    }
    catch (error) {
      return (error as Error).message
    }
  }

  it('is a WAV file of one channel and 16 bits at 8 kHz, no longer than its place allows', () => {
    expect(problem(wav(8_000))).toBe(8_000)
    expect(Math.round(mulaw.decode(readSound(wav(8_000), 'music'))[5]! / 10)).toBe(10)
    expect(problem(wav(60 * 8_000), 'line:general')).toBe(480_000)
    expect(problem(wav(60 * 8_000 + 1), 'line:general')).toBe('wav is longer than 60 seconds. Bring a shorter one.')
    expect(problem(wav(60 * 8_000 + 1))).toBe(480_001)
  })

  it.each([
    ['96 kHz', wav(9_600, 96_000)], ['eight channels', wav(800, 8_000, 8)], ['float', wav(800, 8_000, 1, '32f')], ['24 bits', wav(800, 8_000, 1, '24')],
    ['text', Buffer.from('no sound at all').toString('base64')], ['nothing', ''],
    ['half a head', wav(800).slice(0, 40)], ['a head alone', wav(800).slice(0, 48)],
  ])('nothing else: %s', (_, file) => expect(problem(file)).toMatch(/^wav is no WAV file of one channel|^wav has no sound in it/))

  it('whatever is in it, nothing worse comes of it', () => {
    const whole = Buffer.from(wav(800), 'base64')
    for (let at = 0; at < 60; at++) {
      const broken = Buffer.from(whole)
      broken[at] = 255 - broken[at]!
      expect(['string', 'number']).toContain(typeof problem(broken.toString('base64')))
      expect(['string', 'number']).toContain(typeof problem(whole.subarray(0, at).toString('base64')))
    }
  })
})
