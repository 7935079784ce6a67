import { spawnSync } from 'node:child_process'
import { afterAll, describe, expect, it } from 'vitest'
import { WaveFile } from 'wavefile'
import { longestName, speechRate } from '~~/core/recognition/speech'
import { merrowby } from '~~/demo/company/merrowby'
import { readWav } from '../own-sounds/brought'
import { Pocketsphinx, RecogniserAway } from './recogniser'

let company = merrowby(182)
const recogniser = new Pocketsphinx(() => company)
afterAll(() => recogniser.stop())

/** As somebody says it: into a microphone, with a moment before and after. */
function said(text: string, voice = 'en-us'): Uint8Array {
  const { stdout } = spawnSync('espeak-ng', ['--stdin', '--stdout', '-v', voice, '-s', '150'], { input: text })
  stdout.writeUInt32LE(stdout.length - 8, 4)
  stdout.writeUInt32LE(stdout.length - 44, 40)
  const spoken = new WaveFile(stdout)
  spoken.toSampleRate(speechRate)
  return wavOf([...quiet, ...spoken.getSamples(false, Int16Array) as unknown as Int16Array, ...quiet])
}

const quiet = new Array<number>(speechRate * 0.3).fill(0)
function wavOf(samples: number[]): Uint8Array {
  const wav = new WaveFile()
  wav.fromScratch(1, speechRate, '16', samples)
  return wav.toBuffer()
}

describe('names that are spoken', () => {
  it('are understood, most of sixty by a voice like those that the model knows, by their last name at least', async () => {
    const people = Object.values(company.people).filter((_, at) => at % 3 === 0).slice(0, 60)
    let [whole, found] = [0, 0]
    for (const { first, last } of people) {
      const name = await recogniser.hears(said(`${first} ${last}`))
      if (name === `${first} ${last}`) whole++
      if (name?.endsWith(last)) found++
    }
    console.log(`of ${people.length} names ${whole} were understood whole, ${found} by their last name`)
    expect(whole).toBeGreaterThanOrEqual(40)
    expect(found).toBeGreaterThanOrEqual(48)
  }, 120_000)

  it('are those of the company as it is now', async () => {
    const [person] = Object.values(company.people)
    const name = 'Wilhelmina Butterworth'
    expect(await recogniser.hears(said(name))).not.toBe(name)
    company = { ...company, people: { ...company.people, [person!.id]: { ...person!, first: 'Wilhelmina', last: 'Butterworth' } } }
    expect(await recogniser.hears(said(name))).toBe(name)
  }, 60_000)

  it('are none where nothing is said, and only so many at once are listened to', async () => {
    const silence = wavOf(quiet)
    expect(readWav(Buffer.from(silence).toString('base64'), speechRate, longestName).length).toBeGreaterThan(0)
    expect(await recogniser.hears(silence)).toBeNull()
    const all = await Promise.allSettled(Array.from({ length: 6 }, () => recogniser.hears(silence)))
    expect(all.map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'fulfilled', 'fulfilled', 'rejected', 'rejected'])
    expect((all[5] as PromiseRejectedResult).reason).toBeInstanceOf(RecogniserAway)
    expect(await recogniser.hears(silence), 'and then again').toBeNull()
  }, 60_000)
})
