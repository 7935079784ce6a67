import type { Server } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { RTCPeerConnection } from 'werift'
import { Tryout } from '../core/calls/tryout'
import { openDoors } from './doors'
import { Ears } from './ears'
import { Mixer } from './mixer'
import { OwnSounds } from './own-sounds'
import { Pieces } from './recorder'
import type { Repertoire } from './repertoire'
import { Telephones } from './telephones'

const token = 'known to the house'
const mixer = new Mixer(() => new Tryout().state, { playingAt: () => ({ goesOn: null, once: null }) } as unknown as Repertoire, new Pieces(() => {}))
const pieces = new Pieces(() => {})
const own = new OwnSounds()
const ears = new Ears(mixer)
const telephones = new Telephones(mixer)
let server: Server
let url: string
const browsers: RTCPeerConnection[] = []

beforeAll(async () => {
  const doors = await openDoors(ears, telephones, pieces, own, () => ({ exchange: 'up', speech: 'down' }), { port: 0, token })
  server = doors.server
  url = `http://127.0.0.1:${doors.port}`
})
afterAll(async () => {
  ears.close()
  await Promise.all(browsers.map(browser => browser.close()))
  server.close()
})

async function ask(path: string, body?: unknown, given = token): Promise<[number, { sdp?: string, message?: string }]> {
  const answer = await fetch(`${url}${path}`, {
    method: body === undefined ? 'GET' : 'POST', headers: { authorization: `Bearer ${given}` },
    ...body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) },
  })
  return [answer.status, await answer.json() as { sdp?: string, message?: string }]
}

async function offer(): Promise<{ sdp: string, browser: RTCPeerConnection }> {
  const browser = new RTCPeerConnection({ iceServers: [] })
  browsers.push(browser)
  browser.addTransceiver('audio', { direction: 'sendrecv' })
  for (const { connection } of browser.iceTransports) connection.stunServer = undefined
  await browser.setLocalDescription(await browser.createOffer())
  return { sdp: browser.localDescription!.sdp, browser }
}

describe('the doors of the sound process', () => {
  it('are closed to whoever does not know the token', async () => {
    expect((await ask('/health', undefined, 'guessed'))[0]).toBe(401)
    expect((await ask('/ears', {}, ''))[0]).toBe(401)
    expect(await ask('/health')).toEqual([200, { exchange: 'up', speech: 'down' }])
    expect((await ask('/elsewhere', {}))[0]).toBe(404)
  })

  it('say what is wrong with an offer, and nobody is let in by it', async () => {
    expect((await ask('/ears', '{not JSON'))[0]).toBe(422)
    expect(await ask('/ears', { device: 't2100', session: 's', sdp: 'nonsense' })).toEqual([422, { message: expect.stringContaining('RFC 8866') }])
    const nonsense = { device: 't2100', session: 's', sdp: 'v=0\r\nnonsense' }
    expect(await ask('/ears', nonsense)).toEqual([422, { message: expect.stringContaining('can\'t be answered') }])
    expect((await ask('/ears', { device: 't2100', session: 's', sdp: 'v=0\n', more: 1 }))[0]).toBe(422)
    expect((await ask('/ears', `"${'x'.repeat(70_000)}"`))[0]).toBe(422)
    expect([ears.count, mixer.listening]).toEqual([0, 0])
  })

  it('give what was said to mailboxes, until it is kept', async () => {
    pieces.add('voice-a-1-5', Uint8Array.from([1, 2, 3]))
    const [, { pieces: given }] = await ask('/pieces') as unknown as [number, { pieces: { message: string, place: number, sound: string }[] }]
    expect(given).toEqual([{ message: 'voice-a-1-5', place: expect.any(Number), sound: 'AQID' }])
    expect((await ask('/pieces/kept', { places: ['all'] }))[0]).toBe(422)
    expect((await ask('/pieces/kept', { places: [given[0]!.place] }))[0]).toBe(200)
    expect(await ask('/pieces')).toEqual([200, { pieces: [] }])
  })

  it('take the sounds that somebody has brought, as long as they may be, and say which are wanted', async () => {
    const sounds = [{ place: 'music', version: '1' }]
    expect(await ask('/sounds', { sounds })).toEqual([200, { sounds }])
    expect((await ask('/sounds/given', { ...sounds[0], sound: Buffer.alloc(180 * 8_000, 0x80).toString('base64') }))[0]).toBe(200)
    expect(own.at('music')!.samples.length).toBe(180 * 8_000)
    expect(await ask('/sounds', { sounds })).toEqual([200, { sounds: [] }])
    for (const wrong of [{ sounds: 'all' }, { sounds: [{ place: 'music' }] }, {}]) expect((await ask('/sounds', wrong))[0]).toBe(422)
    expect((await ask('/sounds/given', { place: 'music', version: '2' }))[0]).toBe(422)
    expect((await ask('/sounds', { sounds }, 'a guess'))[0]).toBe(401)
    expect(own.at('music')).toBeDefined()
  })

  it('let a browser in, with addresses of this machine and G.711 alone; it hears frames, until its session is over', async () => {
    const { sdp, browser } = await offer()
    const heard: number[] = []
    browser.onTrack.subscribe(track => track.onReceiveRtp.subscribe(({ payload }) => heard.push(payload.length)))
    const [status, { sdp: answer }] = await ask('/ears', { device: 't2100', session: 'mine', sdp })
    expect(status).toBe(200)
    expect(answer).toMatch(/a=candidate:\S+ 1 udp \d+ 127\.0\.0\.1 \d+ typ host/)
    expect(answer).not.toMatch(/typ srflx|opus/i)
    const connected = new Promise<void>(resolve => browser.connectionStateChange.subscribe(state => state === 'connected' && resolve()))
    await browser.setRemoteDescription({ type: 'answer', sdp: answer! })
    await connected
    expect([ears.count, mixer.listening, mixer.hasMouth('t2100')]).toEqual([1, 1, true])
    while (heard.length < 3) {
      mixer.tick()
      await new Promise(resolve => setImmediate(resolve))
    }
    expect(heard[0]).toBe(160)
    await ask('/over', { sessions: ['another'] })
    expect(ears.count).toBe(1)
    await ask('/over', { sessions: ['mine'] })
    expect([ears.count, mixer.listening, mixer.hasMouth('t2100')]).toEqual([0, 0, false])
  })

  it('at one telephone the oldest of too many is let go', async () => {
    for (let i = 0; i < 6; i++) expect((await ask('/ears', { device: 't2101', session: `s${i}`, sdp: (await offer()).sdp }))[0]).toBe(200)
    expect(ears.count).toBe(4)
    await ask('/over', { sessions: ['s0', 's1'] })
    expect(ears.count).toBe(4)
    await ask('/over', { sessions: ['s2', 's5'] })
    expect(ears.count).toBe(2)
  })
})
