import { createSocket } from 'node:dgram'
import { type AddressInfo, connect, createServer } from 'node:net'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type IncomingRequestMessage, type IncomingResponseMessage, LoggerFactory } from 'sip.js/lib/core/index.js'
import { readMessage } from './reading'
import { nextMessage, type Peer, Wire } from './wire'

const loggers = new LoggerFactory()
loggers.builtinEnabled = false
const logger = loggers.getLogger('test')
const peer: Peer = { protocol: 'udp', address: '192.0.2.7', port: 5_099 }

const plain = [
  'INVITE sip:2105@house SIP/2.0', 'Via: SIP/2.0/UDP 10.0.0.7:5060;branch=z9hG4bKa1;rport', 'Max-Forwards: 70', 'To: <sip:2105@house>',
  'From: "Keziah" <sip:2104@house>;tag=k', 'Call-ID: c1', 'CSeq: 7 INVITE', 'Contact: <sip:2104@10.0.0.7>', 'Content-Length: 0', '', '',
]
const answer = (status: string, via: string | undefined, cseq = '7 INVITE') => [
  `SIP/2.0 ${status}`, `Via: ${via}`, 'To: <sip:2105@house>;tag=z', 'From: <sip:2104@house>;tag=k', 'Call-ID: c1', `CSeq: ${cseq}`, '', '',
].join('\r\n')
const without = (name: string) => plain.filter(line => !line.startsWith(name))
const read = (lines: string[]) => readMessage(lines.join('\r\n'), peer)

describe('a message of somebody else\'s', () => {
  it('is read, with where it really came from', () => {
    const message = read(plain) as IncomingRequestMessage
    expect([message.method, message.ruri?.user, message.callId, message.fromTag, message.cseq]).toEqual(['INVITE', '2105', 'c1', 'k', 7])
    expect(message.getHeader('via')).toBe('SIP/2.0/UDP 10.0.0.7:5060;branch=z9hG4bKa1;received=192.0.2.7;rport=5099')
  })

  // Kinds of hard message that RFC 4475 lists, by its sections.
  it('is read though it is written strangely (3.1.1)', () => {
    const odd: Record<string, string[]> = {
      '3.1.1.1 folded, short names': [
        'INVITE sip:2105@house;unknownparam SIP/2.0', 'TO :', ' sip:2105@house', 'from:    sip:2104@house;', '  tag = 98asjd8', 'MaX-fOrWaRdS: 0068', 'i: c1',
        'cseq: 0009', '  INVITE', 'v:  SIP  / 2.0  / UDP 10.0.0.7;branch=z9hG4bKkdjuw', 's :', 'NewFangledHeader:   newfangled value', ' continued',
        'm:"Quoted string \\"\\"" <sip:2104@10.0.0.7>', 'l: 0', '', '',
      ],
      '3.1.1.3 escaped signs in its address': plain.map(line => line.replace('sip:2105@house SIP', 'sip:sips%3Auser%40house@house SIP')),
      '3.1.1.5 no space before a name': plain.map(line => line.replace('"Keziah" <', 'Keziah<')),
      '3.1.1.6 long values': [...without('Call-ID').slice(0, -3), `Call-ID: ${'x'.repeat(500)}`, `Subject: ${'y'.repeat(3_000)}`, '', ''],
      '3.1.1.13 a method that nobody knows': plain.map(line => line.replace('INVITE', 'NEWMETHOD')),
    }
    for (const [name, lines] of Object.entries(odd)) expect(read(lines), name).not.toBeNull()
  })

  it('is nothing where it can\'t be one (3.1.2, 3.3)', () => {
    const wrong: Record<string, string[]> = {
      '3.1.2.2 a number that is too large': plain.map(line => line.replace('CSeq: 7', 'CSeq: 36893488147419103232')),
      '3.1.2.7 spaces in its first line': plain.map(line => line.replace('INVITE sip', 'INVITE  sip')),
      '3.1.2.16 another version': plain.map(line => line.replace('house SIP/2.0', 'house SIP/7.0')),
      '3.1.2.17 two methods': plain.map(line => line.replace('7 INVITE', '7 OPTIONS')),
      '3.1.2.18 two methods, one of them unknown': plain.map(line => line.replace('INVITE sip', 'NEWMETHOD sip')),
      '3.3.1 no from': without('From'), 'no to': without('To'), 'no call-id': without('Call-ID'), 'no via': without('Via'), 'no cseq': without('CSeq'),
      'no tag': plain.map(line => line.replace(';tag=k', '')), 'no branch': plain.map(line => line.replace(';branch=z9hG4bKa1', '')),
      'another language': ['GET / HTTP/1.1', 'Host: house', '', ''], 'nothing': [''],
    }
    for (const [name, lines] of Object.entries(wrong)) expect(read(lines), name).toBeNull()
  })

  it('never throws, whatever it holds', () => {
    const signs = ['\r\n', ' ', ':', ';', '<', '>', '"', '=', '%', '\u0000', '\uD800', 'sip:', 'Via', 'a', '9', '\t', ',']
    const bytes = fc.string({ unit: fc.constantFrom(...signs), maxLength: 60 })
    const broken = fc.tuple(fc.nat(plain.length - 1), fc.nat(60), fc.nat(20), bytes, fc.boolean()).map(([line, at, cut, put, whole]) => plain
      .map((text, index) => index === line ? (whole ? put : text.slice(0, at) + put + text.slice(at + cut)) : text).join('\r\n'))
    fc.assert(fc.property(broken, (text) => {
      readMessage(text, peer)
    }), { numRuns: Number(process.env.SIP_RUNS ?? 20_000) })
  })
})

describe('what a connection brings', () => {
  it('is cut into messages by the length that each names', () => {
    const one = [...plain.slice(0, -3), 'Content-Length: 5', '', 'hello'].join('\r\n')
    const bytes = Buffer.from(`\r\n\r\n${one}\r\n${one}OPT`)
    const texts: string[] = []
    let rest = bytes
    for (;;) {
      const cut = nextMessage(rest)
      if (cut === null || cut === 'broken') break
      texts.push(cut.text)
      rest = rest.subarray(cut.end)
    }
    expect([texts, rest.toString()]).toEqual([['', one, one], 'OPT'])
  })

  it('is closed where it never ends, or names no length', () => {
    expect(nextMessage(Buffer.from(`${'x'.repeat(70_000)}`))).toBe('broken')
    expect(nextMessage(Buffer.from(without('Content-Length').join('\r\n')))).toBe('broken')
    expect(nextMessage(Buffer.from('INVITE sip:x SIP/2.0\r\nContent-Length: 999999\r\n\r\n'))).toBe('broken')
  })
})

describe('messages over UDP', () => {
  const heard: (IncomingRequestMessage | IncomingResponseMessage)[] = []
  const lost: string[] = []
  let wire: Wire
  const telephone = createSocket('udp4')
  const got: string[] = []
  let trusted = 0
  beforeAll(async () => {
    wire = new Wire({ address: '127.0.0.1', port: 0 }, logger, {
      hear: message => heard.push(message), lose: peer => lost.push(peer.protocol), trusts: ({ port }) => port === trusted,
    })
    await wire.open()
    await new Promise<void>(resolve => telephone.bind(0, '127.0.0.1', resolve))
    telephone.on('message', text => got.push(text.toString()))
  })
  afterAll(() => {
    wire.close()
    telephone.close()
  })
  const say = (text: string) => telephone.send(text, wire.port, '127.0.0.1')
  const until = <T>(look: () => T) => expect.poll(look, { timeout: 5_000, interval: 20 })

  it('that come twice are taken once, and answered again as they were', async () => {
    const invite = plain.join('\r\n')
    say(invite)
    await until(() => heard.length).toBe(1)
    const via = (heard[0] as IncomingRequestMessage).getHeader('via')
    const refused = answer('486 Busy Here', via)
    wire.send(refused)
    await until(() => got.length).toBe(1)
    say(invite)
    await until(() => got.length).toBeGreaterThan(1)
    expect([heard.length, new Set(got)]).toEqual([1, new Set([refused])])
    // A refusal is said until it is acknowledged.
    const before = got.length
    await until(() => got.length).toBeGreaterThan(before)
    say(invite.replace(/INVITE/g, 'ACK'))
    await until(() => heard.length).toBe(2)
  })

  it('that nobody answers are said again, until somebody does', async () => {
    got.length = 0
    const request = [
      `NOTIFY sip:2104@127.0.0.1:${telephone.address().port} SIP/2.0`, `Via: SIP/2.0/UDP 127.0.0.1:${wire.port};branch=z9hG4bKours`,
      'To: <sip:2104@house>;tag=k', 'From: <sip:2105@house>;tag=z', 'Call-ID: c1', 'CSeq: 1 NOTIFY', '', '',
    ].join('\r\n')
    wire.send(request)
    await until(() => got.length).toBe(3)
    say(answer('200 OK', 'SIP/2.0/UDP 127.0.0.1;branch=z9hG4bKours', '1 NOTIFY'))
    await until(() => heard.length).toBe(3)
    expect(got.every(text => text === request)).toBe(true)
  })

  it('are too many from one address: the rest is not read', async () => {
    heard.length = 0
    for (let count = 0; count < 2_000; count++) say(plain.join('\r\n').replace('z9hG4bKa1', `z9hG4bK${count}`))
    await until(() => heard.length).toBeGreaterThan(100)
    expect(heard.length).toBeLessThan(2_000)
  })

  it('are read from a carrier as many as a whole house makes', async () => {
    trusted = telephone.address().port
    // In another second: what came before does not count.
    await new Promise(resolve => setTimeout(resolve, 1_100))
    heard.length = 0
    for (let count = 0; count < 1_500; count++) {
      say(plain.join('\r\n').replace('z9hG4bKa1', `z9hG4bKmany${count}`))
      if (count % 100 === 0) await new Promise(setImmediate)
    }
    await until(() => heard.length).toBe(1_500)
    trusted = 0
  })

  it('go by whoever has asked to stay on the way, and over a connection that we open where we may', async () => {
    got.length = 0
    const [here, there] = [`127.0.0.1:${telephone.address().port}`, '127.0.0.1:9']
    wire.send(`BYE sip:far@${there} SIP/2.0\r\nVia: SIP/2.0/UDP 127.0.0.1;branch=z9hG4bKroute\r\nRoute: <sip:${here};lr>\r\nCSeq: 1 BYE\r\n\r\n`)
    await until(() => got.length).toBeGreaterThan(0)
    expect(got[0]).toContain('BYE sip:far@')
    const carrier = createServer()
    const came: string[] = []
    carrier.on('connection', socket => socket.on('data', text => came.push(text.toString())))
    await new Promise<void>(resolve => carrier.listen(0, '127.0.0.1', resolve))
    const peer: Peer = { protocol: 'tcp', address: '127.0.0.1', port: (carrier.address() as AddressInfo).port }
    const options = `OPTIONS sip:127.0.0.1:${peer.port};transport=tcp SIP/2.0\r\nVia: SIP/2.0/TCP 127.0.0.1;branch=z9hG4bKopened\r\nCSeq: 1 OPTIONS\r\n\r\n`
    wire.send(options)
    wire.reach(peer, '127.0.0.1')
    wire.send(options.replace('opened', 'reached'))
    await until(() => came.join('')).toContain('z9hG4bKreached')
    expect(came.join(''), 'nobody is called whom we may not').not.toContain('z9hG4bKopened')
    carrier.close()
    await until(() => lost.length).toBe(0)
  })

  it('come over a connection too, and go back on it', async () => {
    heard.length = 0
    const socket = connect(wire.port, '127.0.0.1')
    const back: string[] = []
    socket.on('data', text => back.push(text.toString()))
    socket.write(`\r\n\r\n${plain.join('\r\n').replace('UDP', 'TCP').replace('a1', 'tcp')}`)
    const over = () => heard.find(({ viaBranch }) => viaBranch === 'z9hG4bKtcp') as IncomingRequestMessage | undefined
    await until(() => [over()?.method, back.join('')]).toEqual(['INVITE', '\r\n'])
    wire.send(answer('200 OK', over()!.getHeader('via')))
    await until(() => back.join('')).toContain('200 OK')
    socket.destroy()
    await until(() => lost).toEqual(['tcp'])
  })
})
