import { describe, expect, it } from 'vitest'
import { readMessage } from './reading'
import { acceptedTimer, answeredTimer, dueIn, offeredTimer, refusedTimer, timerOf } from './session-timer'

const peer = { protocol: 'udp', address: '192.0.2.10', port: 5060 } as const
const said = (...fields: string[]) => readMessage([
  'INVITE sip:2105@192.0.2.1 SIP/2.0', 'Via: SIP/2.0/UDP 192.0.2.10;branch=z9hG4bKa', 'From: <sip:a@192.0.2.10>;tag=a', 'To: <sip:2105@192.0.2.1>',
  'Call-ID: a', 'CSeq: 1 INVITE', 'Max-Forwards: 70', ...fields, 'Content-Length: 0', '', '',
].join('\r\n'), peer) as never

describe('a session timer', () => {
  it.each([
    [['Session-Expires: 1800;refresher=uac'], { seconds: 1_800, by: 'them' }],
    [['Session-Expires: 1800;refresher=uas'], { seconds: 1_800, by: 'us' }],
    [['x: 90; refresher=UAS'], { seconds: 90, by: 'us' }],
    [['Session-Expires: 90', 'Supported: replaces, timer'], { seconds: 90, by: 'them' }],
    [['Session-Expires: 90'], { seconds: 90, by: 'us' }],
    [['Supported: timer'], null],
    [['Session-Expires: soon'], null],
  ])('is kept by whoever says so, else by who asks for it and can: %j', (fields, timer) => {
    expect(timerOf(said(...fields))).toEqual(timer)
  })

  it('of an answer to us is kept by the one whom it names', () => {
    expect(answeredTimer(said('Session-Expires: 600;refresher=uac'))).toEqual({ seconds: 600, by: 'us' })
    expect(answeredTimer(said('Session-Expires: 600;refresher=uas'))).toEqual({ seconds: 600, by: 'them' })
    expect(answeredTimer(said())).toBeNull()
  })

  it('is answered with who keeps it, and offered again with the same', () => {
    expect(acceptedTimer({ seconds: 600, by: 'them' })).toEqual(['Session-Expires: 600;refresher=uac', 'Require: timer'])
    expect(acceptedTimer({ seconds: 600, by: 'us' })).toEqual(['Session-Expires: 600;refresher=uas'])
    expect(offeredTimer({ seconds: 600, by: 'us' })).toContain('Session-Expires: 600;refresher=uac')
    expect(offeredTimer({ seconds: 600, by: 'them' })).toContain('Session-Expires: 600;refresher=uas')
    expect([acceptedTimer(null), offeredTimer(null)]).toEqual([[], []])
  })

  it('is refused below a minute and a half', () => {
    expect(refusedTimer({ seconds: 89, by: 'us' })).toEqual(['Min-SE: 90'])
    expect(refusedTimer({ seconds: 90, by: 'us' })).toBeNull()
    expect(refusedTimer(null)).toBeNull()
  })

  it('is due in good time: ours at half of it, theirs before its end', () => {
    expect([dueIn({ seconds: 90, by: 'us' }), dueIn({ seconds: 90, by: 'them' }), dueIn({ seconds: 1_800, by: 'them' })]).toEqual([45_000, 60_000, 1_768_000])
  })
})
