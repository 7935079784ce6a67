import { createSocket } from 'node:dgram'
import { afterEach, describe, expect, it } from 'vitest'
import { frameSamples } from '../core/sound/frames'
import { NotAcceptable, TelephoneEnd } from './telephone-end'

const here = { address: '127.0.0.1', peer: '127.0.0.1' }
const ends: TelephoneEnd[] = []
const frame = Int16Array.from({ length: frameSamples }, (_, at) => 8_000 * Math.sin(at / 3))

async function open(secret = false): Promise<TelephoneEnd> {
  const end = await TelephoneEnd.open({ ...here, secret }, null, { digit() {}, over() {} })
  ends.push(end)
  return end
}

/** Two ends that have agreed, the second as a telephone. */
async function agreed(secret: boolean, change: (sdp: string) => string = sdp => sdp) {
  const [ours, theirs] = [await open(secret), await open()]
  const offer = change(ours.offer())
  theirs.accept(offer)
  const answer = theirs.answer()
  ours.accept(answer)
  return { ours, theirs, offer, answer }
}

/** What comes of what one says at the other. */
async function hears(from: TelephoneEnd, to: TelephoneEnd): Promise<boolean> {
  for (let tried = 0; tried < 25; tried++) {
    from.hear(frame)
    await new Promise(resolve => setTimeout(resolve, 10))
    const heard = to.next()
    if (heard?.some(sample => Math.abs(sample) > 4_000)) return true
  }
  return false
}

const withKey = (suite: string, key: string) => (sdp: string) =>
  sdp.replace('RTP/AVP', 'RTP/SAVP').replace('a=ptime', `a=crypto:1 ${suite} inline:${key}\r\na=ptime`)

afterEach(() => {
  for (const end of ends.splice(0)) end.close()
})

describe('the sound of a telephone', () => {
  it('goes both ways, plain unless we offer more', async () => {
    const { ours, theirs, offer, answer } = await agreed(false)
    expect(`${offer}${answer}`).not.toContain('crypto')
    expect([await hears(ours, theirs), await hears(theirs, ours)]).toEqual([true, true])
  })

  it.each(['RTP/AVP', 'RTP/SAVP'])('is encrypted where both sides have named a key, as %s', async (protocol) => {
    const { ours, theirs, offer, answer } = await agreed(true, sdp => sdp.replace('RTP/AVP', protocol))
    expect(answer).toContain(`${protocol} 0`)
    const keys = [offer, answer].map(sdp => /inline:(\S+)/.exec(sdp)?.[1])
    expect(new Set(keys).size, 'each has one of its own').toBe(2)
    expect([await hears(ours, theirs), await hears(theirs, ours)]).toEqual([true, true])
    // Said again, as after a hold: what was counted goes on.
    theirs.accept(ours.offer().replace('RTP/AVP', protocol))
    expect(await hears(ours, theirs)).toBe(true)
  })

  it('is plain where the other side names no key', async () => {
    const { ours, theirs } = await agreed(true, sdp => sdp.replace(/a=crypto.*\r\n/, ''))
    expect([await hears(ours, theirs), await hears(theirs, ours)]).toEqual([true, true])
  })

  it('is not taken from whoever does not have the key', async () => {
    const { ours, theirs } = await agreed(true)
    const stranger = createSocket('udp4')
    const packet = Buffer.alloc(12 + frameSamples, 0x10)
    packet[0] = 0x80
    packet[1] = 0
    for (let at = 0; at < 10; at++) {
      packet.writeUInt16BE(at, 2)
      packet.writeUInt32BE(at * frameSamples, 4)
      await new Promise(resolve => stranger.send(packet, ours.port, here.address, resolve))
    }
    stranger.close()
    await new Promise(resolve => setTimeout(resolve, 50))
    expect(Array.from({ length: 12 }, () => ours.next()).every(heard => !heard || heard.every(sample => sample === 0))).toBe(true)
    expect(await hears(theirs, ours), 'and the other goes on').toBe(true)
  })

  it.each([
    ['RTP/SAVP without a key', (sdp: string) => sdp.replace('RTP/AVP', 'RTP/SAVP')],
    ['a suite that we do not have', withKey('F8_128_HMAC_SHA1_80', 'abmEBES4Qsn3h9fJrDercZ6ZfM9n0yJ1ZLiuc8Xk')],
    ['half a key', withKey('AES_CM_128_HMAC_SHA1_80', 'abmEBES4Qsn3')],
    ['no law that we have', (sdp: string) => sdp.replace(/AVP .*/, 'AVP 9')],
  ])('is refused with %s', async (_, change) => {
    const [ours, theirs] = [await open(), await open()]
    expect(() => ours.accept(change(theirs.offer()))).toThrow(NotAcceptable)
  })
})
