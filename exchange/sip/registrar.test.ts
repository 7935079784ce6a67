import { afterEach, describe, expect, it } from 'vitest'
import type { IncomingRequestMessage } from 'sip.js/lib/core/index.js'
import { Registrar } from './registrar'
import { readMessage } from './reading'
import type { Peer } from './wire'

const peer: Peer = { protocol: 'udp', address: '192.0.2.7', port: 5_060 }
let now = 0
let heard: [string, boolean][] = []
let registrar: Registrar

function registering(contacts: string[], { expires = '', callId = 'a', cseq = 1 } = {}): IncomingRequestMessage {
  return readMessage([
    'REGISTER sip:house SIP/2.0', 'Via: SIP/2.0/UDP 10.0.0.7:5060;branch=z9hG4bKx;rport', 'To: <sip:2104@house>', 'From: <sip:2104@house>;tag=a',
    `Call-ID: ${callId}`, `CSeq: ${cseq} REGISTER`, ...contacts.map(contact => `Contact: ${contact}`), ...expires ? [`Expires: ${expires}`] : [], '', '',
  ].join('\r\n'), peer) as IncomingRequestMessage
}
const register = (contacts: string[], more = {}) => registrar.register('t2104', registering(contacts, more), peer)
const there = () => registrar.of('t2104').map(({ uri }) => uri.toString())

function begin(): void {
  now = 1_000_000
  heard = []
  registrar = new Registrar((device, isThere) => heard.push([device, isThere]), () => now)
}
afterEach(() => registrar.close())

describe('where telephones are', () => {
  it('is what they say, several at once, for as long as they ask within bounds', () => {
    begin()
    expect(register(['<sip:2104@10.0.0.7>;expires=60']).extraHeaders).toEqual(['Contact: <sip:2104@10.0.0.7>;expires=60'])
    expect(register(['<sip:2104@10.0.0.8:5070;transport=tcp>'], { expires: '99999', callId: 'b' }).extraHeaders).toHaveLength(2)
    expect(there()).toEqual(['sip:2104@10.0.0.7', 'sip:2104@10.0.0.8:5070;transport=tcp'])
    expect(register(['sip:2104@10.0.0.9;expires=1'], { callId: 'c' }).extraHeaders.at(-1)).toMatch(/expires=30$/)
    expect(heard.every(([, isThere]) => isThere)).toBe(true)
  })

  it('is forgotten when they say so, one or all, and when their time is over', async () => {
    begin()
    register(['<sip:2104@10.0.0.7>', '<sip:2104@10.0.0.8>'])
    register(['<sip:2104@10.0.0.7>;expires=0'], { cseq: 2 })
    expect(there()).toEqual(['sip:2104@10.0.0.8'])
    expect(register(['*'], { cseq: 3 }).statusCode, 'all, but not for good').toBe(400)
    expect(there()).toHaveLength(1)
    expect(register(['*'], { cseq: 3, expires: '0' })).toEqual({ statusCode: 200, extraHeaders: [] })
    expect([there(), heard.at(-1)]).toEqual([[], ['t2104', false]])
    register(['<sip:2104@10.0.0.7>;expires=40'], { cseq: 4 })
    now += 40_001
    await expect.poll(there, { timeout: 3_000 }).toEqual([])
    expect(heard.at(-1)).toEqual(['t2104', false])
  })

  it('is not changed by a request that was overtaken, or can\'t be read; and is asked for without changing it', () => {
    begin()
    register(['<sip:2104@10.0.0.7>'], { cseq: 5 })
    expect(register(['<sip:2104@10.0.0.7>;expires=0'], { cseq: 4 }).statusCode).toBe(500)
    expect(register(['<tel:2104>'], { cseq: 6 }).statusCode).toBe(400)
    expect(register([], { cseq: 7 }).extraHeaders).toHaveLength(1)
    expect(there()).toEqual(['sip:2104@10.0.0.7'])
  })

  it('is nowhere once the connection by which they came has gone', () => {
    begin()
    register(['<sip:2104@10.0.0.7>'])
    registrar.register('t2105', registering(['<sip:2105@10.0.0.7>']), { ...peer, port: 5_061 })
    registrar.lose(peer)
    expect([there(), registrar.of('t2105').length, heard.at(-1)]).toEqual([[], 1, ['t2104', false]])
  })

  it('is six places at most: the oldest is left out', () => {
    begin()
    for (let place = 1; place <= 8; place++) register([`<sip:2104@10.0.0.${place}>`], { callId: String(place) })
    expect(there()).toEqual([3, 4, 5, 6, 7, 8].map(place => `sip:2104@10.0.0.${place}`))
  })
})
