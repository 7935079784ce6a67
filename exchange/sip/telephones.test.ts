import type { Server } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { CallId, DeviceId, Request } from '../../core/calls/model'
import { connectionOf, callsOf } from '../../core/calls/questions'
import { smallHouse } from '../../core/calls/small-house'
import { quietState } from '../../core/calls/snapshot'
import { openDoors } from '../../sound/doors'
import { Ears } from '../../sound/ears'
import { everyFrame } from '../../sound/clock'
import { Mixer } from '../../sound/mixer'
import { OwnSounds } from '../../sound/own-sounds'
import { Pieces } from '../../sound/recorder'
import type { Repertoire } from '../../sound/repertoire'
import { Telephones as TelephoneSounds } from '../../sound/telephones'
import { accountOf, Baresip, ownAddress } from '../../tests/telephone-set'
import { SteadyClock } from '../clock'
import { Switch } from '../switch'
import { Telephones } from './telephones'

const token = 'known to the house'
const address = ownAddress()
const exchange = new Switch(quietState(smallHouse(), { epoch: 'sip', now: Date.now(), attended: [] }), new SteadyClock(Date.now()))
const mixer = new Mixer(() => exchange.state, { playingAt: () => ({ goesOn: null, once: null }) } as unknown as Repertoire, new Pieces(() => {}))
const sounds = new TelephoneSounds(mixer)
const ears = new Ears(mixer)
let doors: Server
let stopTicking: () => void
let telephones: Telephones
let [keziah, hester, jory]: Baresip[] = []

const at = (device: DeviceId) => callsOf(exchange.state, device)
const stateOf = (call: CallId | undefined, device: DeviceId) => connectionOf(exchange.state.calls.get(call ?? '') ?? { connections: [] } as never, device)?.state
const ask = (request: Request) => exchange.request(crypto.randomUUID(), request)
const until = <T>(read: () => T) => expect.poll(read, { timeout: 8_000, interval: 50 })

beforeAll(async () => {
  const opened = await openDoors(ears, sounds, new Pieces(() => {}), new OwnSounds(), () => ({ exchange: 'up', speech: 'down' }), { port: 0, token })
  doors = opened.server
  stopTicking = everyFrame(() => mixer.tick())
  telephones = new Telephones(exchange, { address, port: 0, soundPort: opened.port, token, log: text => console.error(text) })
  await telephones.open()
  telephones.know([accountOf('t2104', '2104', 'keziahs-secret'), accountOf('t2105', '2105', 'hesters-secret'), accountOf('t2108', '2108', 'jorys-secret')])
  const where = `${address}:${telephones.port}`
  ;[keziah, hester, jory] = await Promise.all([
    Baresip.start('2104', 'keziahs-secret', where, 700), Baresip.start('2105', 'hesters-secret', where, 1_100), Baresip.start('2108', 'jorys-secret', where, 1_500),
  ])
}, 30_000)

afterAll(async () => {
  if (process.env.SIP_TRACE) console.error(keziah?.output, hester?.output)
  await Promise.all([keziah, hester, jory].map(set => set?.stop()))
  telephones?.close()
  stopTicking?.()
  doors?.closeAllConnections()
  doors?.close()
})

describe('telephones that nobody here wrote', () => {
  it('register, and are seen to be there', async () => {
    await until(() => ['t2104', 't2105', 't2108'].map(device => exchange.state.devices.get(device)?.registered)).toEqual([true, true, true])
  })

  it('call each other, hear each other, and hang up', async () => {
    keziah!.press('dial', '2105')
    await until(() => stateOf(at('t2105')[0]?.id, 't2105')).toBe('alerting')
    const call = at('t2105')[0]!.id
    await until(() => hester!.saw('CALL_INCOMING')).toBe(true)
    hester!.press('accept')
    await until(() => stateOf(call, 't2105')).toBe('connected')
    await until(() => keziah!.hears(1_100) > 0.1 && hester!.hears(700) > 0.1).toBe(true)
    expect(keziah!.hears(700), 'not oneself').toBeLessThan(0.02)
    keziah!.press('hangup')
    await until(() => exchange.state.calls.size).toBe(0)
    await until(() => hester!.saw('CALL_CLOSED')).toBe(true)
    expect(ask).toBeDefined()
  })
})
