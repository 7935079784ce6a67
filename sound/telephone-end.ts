import { createSocket, type Socket } from 'node:dgram'
import { randomBytes, randomInt } from 'node:crypto'
import { alaw, mulaw } from 'alawmulaw'
import { type MediaDescription, parse, type SessionDescription, write } from 'sdp-transform'
import { RtpHeader, SrtpSession } from 'werift'
import { frameSamples, silentFrame } from '../core/sound/frames'
import type { Ports } from './browser'
import { JitterBuffer } from './jitter'

/** Payload types of G.711 (RFC 3551), µ-law and A-law; and what we offer for digits (RFC 4733). */
const [pcmu, pcma, ourDigits] = [0, 8, 101]
/** Bytes before what is said (RFC 3550). */
const headerLength = 12
/** What encrypts and proves packets (RFC 4568): the suite that every telephone has which encrypts at all, its number (RFC 5764), and bytes of key and salt. */
const suite = 'AES_CM_128_HMAC_SHA1_80'
const profile = 1
const [keyBytes, saltBytes] = [16, 14]
/** Packets may hold so many frames: 20 to 60 ms. */
const mostFrames = 3
/** Digits as RFC 4733 numbers them. */
const digits = '0123456789*#ABCD'
/** A telephone from which nothing comes for so long (milliseconds) has gone, unless it hears alone. */
const silentFor = 30_000

type Direction = 'sendrecv' | 'sendonly' | 'recvonly' | 'inactive'

/** What a telephone says of its sound cannot be met here. */
export class NotAcceptable extends Error {}

/** Where a telephone hears and speaks, as its last description says. */
interface Remote {
  address: string
  port: number
  law: typeof pcmu | typeof pcma
  /** The payload type of its digits; null: it sends none. */
  digits: number | null
  direction: Direction
  /** With which it encrypts what it sends, and the number under which it has said so; null: it does not. */
  key: { tag: number, bytes: Buffer } | null
  protocol: string
  /** How it described itself, media by media: an answer has as many. */
  media: MediaDescription[]
}

/**
 * The end at our side of a telephone's sound: RTP (RFC 3550), plain or encrypted by keys in its description (RFC 3711, RFC 4568), symmetric, G.711, described
 * as RFC 3264 says.
 */
export class TelephoneEnd {
  private readonly heard = new JitterBuffer()
  private remote: Remote | null = null
  /** Where its packets really come from: that is where it hears, also behind a router that changes addresses. */
  private source: { address: string, port: number } | null = null
  private sequence = randomInt(65_536)
  private timestamp = randomInt(2 ** 32)
  private readonly ssrc = randomInt(2 ** 32)
  /** With which we encrypt what we send. */
  private readonly key = randomBytes(keyBytes + saltBytes)
  private secret: { session: SrtpSession, theirs: Buffer } | null = null
  private version = 1
  private lastDigit: number | null = null
  private lastHeard = performance.now()
  private readonly watching: NodeJS.Timeout
  private over = false

  private constructor(
    private readonly socket: Socket, readonly port: number,
    private readonly where: { address: string, peer: string, secret?: boolean },
    private readonly tell: { digit: (digit: string) => void, over: () => void },
  ) {
    socket.on('message', (packet, from) => this.take(packet, from))
    socket.on('error', () => this.close())
    this.watching = setInterval(() => {
      const speaks = this.remote && (this.remote.direction === 'sendrecv' || this.remote.direction === 'sendonly')
      if (!speaks) this.lastHeard = performance.now()
      else if (performance.now() - this.lastHeard > silentFor) this.close()
    }, 5_000)
  }

  /**
   * Opens a port for a telephone.
   * @param where `address` of ours that it reaches; `peer`: the address that it speaks from; `secret`: we offer to encrypt
   * @param wanted the port that it knows already, or those that may be used; null: any
   * @throws when none is free
   */
  static async open(
    where: { address: string, peer: string, secret?: boolean }, wanted: number | Ports | null, tell: { digit: (digit: string) => void, over: () => void },
  ): Promise<TelephoneEnd> {
    const [from, to] = typeof wanted === 'number' ? [wanted, wanted] : wanted ?? [0, 0]
    // Even ports, as RFC 3550 asks; of a range somewhere in it, so that not every call tries the same ones.
    const begin = from + randomInt(Math.max(1, to - from + 1))
    for (let tried = 0; tried <= to - from; tried++) {
      const port = from + (begin - from + tried) % (to - from + 1)
      if (port % 2 === 1 && from !== to) continue
      const socket = createSocket(where.address.includes(':') ? 'udp6' : 'udp4')
      const isBound = await new Promise<boolean>((resolve) => {
        socket.once('error', () => resolve(false))
        socket.bind(port, where.address, () => resolve(true))
      })
      if (isBound) return new TelephoneEnd(socket, socket.address().port, where, tell)
      socket.close()
    }
    throw new NotAcceptable('No port is free for the sound of one more telephone.')
  }

  /** Whether it hears us, and whether it speaks: neither while it has put its call on hold. */
  get isOpen(): boolean {
    return !this.over && this.remote?.direction === 'sendrecv'
  }

  /** Our description, offered. */
  offer(): string {
    // One that does not encrypt takes it as a plain offer (RFC 8643).
    const tag = this.remote?.key?.tag ?? (this.where.secret ? 1 : null)
    return this.describe([this.audio([pcmu, pcma], ourDigits, 'sendrecv', { protocol: this.remote?.protocol ?? 'RTP/AVP', tag })])
  }

  /**
   * What a telephone offers, or answers to our offer.
   * @throws NotAcceptable when there is no sound in it that we can do
   */
  accept(sdp: string): void {
    this.remote = remoteOf(sdp)
    this.encryptFor(this.remote.key?.bytes ?? null)
    this.source = null
    this.lastHeard = performance.now()
  }

  /** The answer to what it offered. */
  answer(): string {
    const { media, law, digits: theirs, direction, key } = this.remote!
    const ours: Record<Direction, Direction> = { sendrecv: 'sendrecv', sendonly: 'recvonly', recvonly: 'sendonly', inactive: 'inactive' }
    let isTaken = false
    return this.describe(media.map((one) => {
      if (isTaken || !isSound(one)) return { type: one.type, port: 0, protocol: one.protocol, payloads: String(one.payloads ?? '0'), rtp: [], fmtp: [] }
      isTaken = true
      return this.audio([law], theirs, ours[direction], { protocol: one.protocol, tag: key?.tag ?? null })
    }))
  }

  next(): Int16Array | null {
    return this.isOpen ? this.heard.take() : null
  }

  hear(frame: Int16Array): void {
    this.sequence = (this.sequence + 1) & 0xFFFF
    this.timestamp = (this.timestamp + frameSamples) >>> 0
    const { remote } = this
    if (this.over || !remote || (remote.direction !== 'sendrecv' && remote.direction !== 'recvonly')) return
    const { address, port } = this.source ?? remote
    if (port === 0) return
    const said = Buffer.from((remote.law === pcmu ? mulaw : alaw).encode(frame ?? silentFrame))
    if (this.secret) {
      const header = new RtpHeader({ payloadType: remote.law, sequenceNumber: this.sequence, timestamp: this.timestamp, ssrc: this.ssrc })
      return this.socket.send(this.secret.session.encrypt(said, header), port, address, () => {})
    }
    const packet = Buffer.allocUnsafe(headerLength + said.length)
    packet[0] = 0x80
    packet[1] = remote.law
    packet.writeUInt16BE(this.sequence, 2)
    packet.writeUInt32BE(this.timestamp, 4)
    packet.writeUInt32BE(this.ssrc, 8)
    said.copy(packet, headerLength)
    this.socket.send(packet, port, address, () => {})
  }

  close(): void {
    if (this.over) return
    this.over = true
    clearInterval(this.watching)
    this.socket.close()
    this.tell.over()
  }

  /** A key that it has named already goes on, with what was counted for it. */
  private encryptFor(theirs: Buffer | null): void {
    if (!theirs) this.secret = null
    else if (!this.secret?.theirs.equals(theirs)) {
      const [ours, its] = [this.key, theirs].map(key => [key.subarray(0, keyBytes), key.subarray(keyBytes)] as const)
      const session = new SrtpSession({
        keys: { localMasterKey: ours![0], localMasterSalt: ours![1], remoteMasterKey: its![0], remoteMasterSalt: its![1] }, profile,
      })
      if (this.secret) session.localContext = this.secret.session.localContext
      this.secret = { session, theirs }
    }
  }

  private take(received: Buffer, from: { address: string, port: number }): void {
    const { remote } = this
    const packet = this.opened(received)
    // Version 2 of RTP, from where the telephone is: whoever else sends something here is not listened to.
    if (!remote || !packet || packet.length < headerLength || packet[0]! >> 6 !== 2) return
    if (from.address !== remote.address && from.address !== this.where.peer) return
    const type = packet[1]! & 0x7F
    const begin = headerLength + (packet[0]! & 0x0F) * 4
    const extension = packet[0]! & 0x10 ? 4 + packet.readUInt16BE(Math.min(begin + 2, packet.length - 2)) * 4 : 0
    const padding = packet[0]! & 0x20 ? packet[packet.length - 1]! : 0
    const payload = packet.subarray(begin + extension, packet.length - padding)
    const timestamp = packet.readUInt32BE(4)
    this.lastHeard = performance.now()
    if (type === remote.digits) return this.takeDigit(payload, timestamp)
    const frames = payload.length / frameSamples
    if (type !== remote.law || !Number.isInteger(frames) || frames < 1 || frames > mostFrames) return
    this.source = from
    const samples = (type === pcmu ? mulaw : alaw).decode(payload)
    const place = Math.floor(timestamp / frameSamples)
    for (let at = 0; at < frames; at++) this.heard.put((place + at) & 0xFFFF, samples.slice(at * frameSamples, (at + 1) * frameSamples))
  }

  /** A packet as it was before it was encrypted; null: whoever sent it does not have the key. */
  private opened(packet: Buffer): Buffer | null {
    if (!this.secret) return packet
    try {
      return this.secret.session.decrypt(packet)
    }
    catch {
      return null
    }
  }

  /** Each digit comes in many packets of one time. */
  private takeDigit(payload: Buffer, timestamp: number): void {
    if (payload.length < 4 || this.lastDigit === timestamp) return
    this.lastDigit = timestamp
    const digit = digits[payload[0]!]
    if (digit) this.tell.digit(digit)
  }

  private audio(
    laws: number[], digitType: number | null, direction: Direction, { protocol, tag }: { protocol: string, tag: number | null },
  ): MediaDescription {
    const names = { [pcmu]: 'PCMU', [pcma]: 'PCMA' }
    return {
      type: 'audio', port: this.port, protocol, payloads: [...laws, ...digitType === null ? [] : [digitType]].join(' '),
      rtp: [
        ...laws.map(payload => ({ payload, codec: names[payload]!, rate: 8_000 })),
        ...digitType === null ? [] : [{ payload: digitType, codec: 'telephone-event', rate: 8_000 }],
      ],
      fmtp: digitType === null ? [] : [{ payload: digitType, config: '0-15' }],
      ptime: 20, maxptime: 20 * mostFrames, direction,
      ...tag !== null && { crypto: [{ id: tag, suite, config: `inline:${this.key.toString('base64')}` }] },
    }
  }

  private describe(media: MediaDescription[]): string {
    const { address } = this.where
    const version = address.includes(':') ? 6 : 4
    const description: SessionDescription = {
      version: 0, origin: { username: '-', sessionId: this.ssrc, sessionVersion: this.version++, netType: 'IN', ipVer: version, address },
      name: '-', connection: { version, ip: address }, timing: { start: 0, stop: 0 }, media: media as SessionDescription['media'],
    }
    return write(description)
  }
}

/** A stream of sound as telephones have it, plain or with a key for us, and not refused. */
function isSound(media: MediaDescription): boolean {
  const { type, protocol, port } = media
  return type === 'audio' && port > 0 && (protocol === 'RTP/AVP' || (protocol === 'RTP/SAVP' && keyOf(media) !== null))
}

/** The key that a stream names, of the suite that we have. */
function keyOf({ crypto }: MediaDescription): Remote['key'] {
  for (const { id, suite: its, config } of crypto ?? []) {
    const bytes = Buffer.from(/^inline:([A-Za-z0-9+/]{40})(?=[|;\s]|$)/.exec(config)?.[1] ?? '', 'base64')
    if (its === suite && bytes.length === keyBytes + saltBytes) return { tag: Number(id), bytes }
  }
  return null
}

function remoteOf(sdp: string): Remote {
  const { media, connection, direction } = parse(sdp)
  const audio = media.find(isSound)
  if (!audio) throw new NotAcceptable('There is no sound in that description that is plain RTP, or SRTP with a key of the suite that every telephone has.')
  const offered = String(audio.payloads ?? '').split(' ').map(Number)
  const law = offered.find(type => type === pcmu || type === pcma) as Remote['law'] | undefined
  if (law === undefined) throw new NotAcceptable('Neither G.711 µ-law nor A-law is in that description.')
  const address = audio.connection?.ip ?? connection?.ip
  if (!address) throw new NotAcceptable('That description names no address.')
  const digitType = audio.rtp.find(({ codec, rate }) => codec.toLowerCase() === 'telephone-event' && (rate ?? 8_000) === 8_000)?.payload
  // As older telephones put a call on hold (RFC 2543): nowhere to send to.
  const isNowhere = address === '0.0.0.0' || address === '::'
  return {
    address, port: isNowhere ? 0 : audio.port, law, digits: digitType ?? null, media, protocol: audio.protocol, key: keyOf(audio),
    direction: isNowhere ? 'inactive' : (audio.direction ?? direction ?? 'sendrecv') as Direction,
  }
}
