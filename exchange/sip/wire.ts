import { createSocket, type Socket as UdpSocket } from 'node:dgram'
import { connect as connectTcp, createServer as createTcpServer, isIP, type Server, type Socket } from 'node:net'
import { connect as connectTls, createServer as createTlsServer } from 'node:tls'
import { type IncomingRequestMessage, IncomingResponseMessage, type Logger } from 'sip.js/lib/core/index.js'
import { readMessage, readUri } from './reading'
import { Once, Repeater } from './repeating'

/** SIP messages over UDP, TCP and TLS (RFC 3261, section 18): read, and sent to where they belong. */

export type Protocol = 'udp' | 'tcp' | 'tls'

/** Where somebody is, as their packets come. */
export interface Peer {
  protocol: Protocol
  address: string
  port: number
}

export interface WireOptions {
  /** Of ours, on which it listens and which telephones are told. */
  address: string
  port: number
  /** For TLS, one port further: PEM. */
  tls?: { key: string, cert: string }
}

/** Bytes: a message is refused beyond. A telephone's longest have some 4,000. */
export const longestMessage = 64 * 1024
const mostConnections = 5_000
/** A connection on which nothing comes for so long (milliseconds) is closed. */
const idleFor = 15 * 60_000
/** Messages a second from one port, and from one address or from a carrier. */
const mostFromOne = 400
const mostFromAddress = 4_000

const keyOf = ({ protocol, address, port }: Peer) => `${protocol}:${address}:${port}`

export class Wire {
  private udp!: UdpSocket
  private readonly servers: Server[] = []
  private readonly connections = new Map<string, Socket>()
  /** Where whoever is named by a URI was last heard from: behind a router it is not where the URI says. */
  private readonly places = new Map<string, Peer>()
  /** Those to whom we open a connection ourselves, with the name that their certificate has. */
  private readonly reached = new Map<string, string>()
  private readonly once: Once
  private readonly repeater: Repeater
  private counted = new Map<string, number>()
  private readonly counting: NodeJS.Timeout
  private at!: { address: string, port: number }

  constructor(
    private readonly options: WireOptions,
    private readonly logger: Logger,
    private readonly tell: {
      hear: (message: IncomingRequestMessage | IncomingResponseMessage, peer: Peer) => void
      /** A connection has gone, and whoever was at its other end. */
      lose: (peer: Peer) => void
      /** All calls of a house may come from there. */
      trusts?: (peer: Peer) => boolean
    },
  ) {
    this.once = new Once()
    this.repeater = new Repeater((text, peer) => this.put(text, peer))
    this.counting = setInterval(() => {
      this.counted = new Map()
      this.once.forget()
    }, 1_000)
  }

  /** The port of UDP and TCP; that of TLS is one further. */
  get port(): number {
    return this.at.port
  }

  get address(): string {
    return this.at.address
  }

  async open(): Promise<void> {
    const { address, port, tls } = this.options
    this.udp = createSocket({ type: address.includes(':') ? 'udp6' : 'udp4', recvBufferSize: 4 * 1024 * 1024 })
    await new Promise<void>((resolve, reject) => {
      this.udp.once('error', reject)
      this.udp.bind(port, address, resolve)
    })
    this.udp.removeAllListeners('error').on('error', error => this.logger.warn(error.message))
    this.at = { address, port: this.udp.address().port }
    this.udp.on('message', (packet, { address, port }) => this.take(packet.toString('utf8'), { protocol: 'udp', address, port }))
    await this.listen(createTcpServer(socket => this.meet(socket, 'tcp')), this.at.port)
    if (tls) await this.listen(createTlsServer(tls, socket => this.meet(socket, 'tls')), this.at.port + 1)
  }

  close(): void {
    clearInterval(this.counting)
    this.repeater.close()
    this.udp.close()
    for (const server of this.servers) server.close()
    for (const connection of this.connections.values()) connection.destroy()
  }

  /** Sends a message as it stands: an answer to where its request came from, a request to whom its first line names. */
  send(text: string): void {
    const isAnswer = text.startsWith('SIP/2.0 ')
    // Through whoever has asked to stay on the way (RFC 3261, section 16.12), or straight.
    const peer = isAnswer ? answered(text) : this.placeOf(/^Route:\s*<([^>]+)>/im.exec(text)?.[1] ?? /^\S+ (\S+) /.exec(text)?.[1] ?? '')
    if (!peer) return this.logger.warn('nobody is known to whom that message could go')
    if (isAnswer) this.once.answered(text)
    if (peer.protocol === 'udp') this.repeater.sent(text, peer)
    this.put(text, peer)
  }

  /** From now on a connection to there is opened when one is needed. */
  reach(peer: Peer, host: string): void {
    if (peer.protocol !== 'udp') this.reached.set(keyOf(peer), host)
  }

  /** From now on whoever is named so is where this came from. */
  learn(uri: string, peer: Peer): void {
    const name = nameOf(uri)
    this.places.delete(name)
    this.places.set(name, peer)
    if (this.places.size > 20_000) this.places.delete(this.places.keys().next().value!)
  }

  /** Where somebody named by a URI is: where they were heard from, or where the URI says. */
  placeOf(uri: string): Peer | null {
    const known = this.places.get(nameOf(uri))
    if (known) return known
    const read = readUri(uri)
    if (!read) return null
    const protocol = read.getParam('transport')?.toLowerCase()
    return { protocol: protocol === 'tcp' || protocol === 'tls' ? protocol : 'udp', address: read.host.replace(/^\[|\]$/g, ''), port: read.port ?? 5060 }
  }

  private put(text: string, peer: Peer): void {
    if (peer.protocol === 'udp') return this.udp.send(text, peer.port, peer.address, () => {})
    const connection = this.connections.get(keyOf(peer)) ?? this.connect(peer)
    if (!connection || connection.destroyed) return this.logger.warn(`the connection of ${keyOf(peer)} has gone`)
    connection.write(text)
    if (connection.writableLength > longestMessage * 16) connection.destroy()
  }

  private connect(peer: Peer): Socket | undefined {
    const { protocol, address: host, port } = peer
    const name = this.reached.get(keyOf(peer))
    if (name === undefined) return undefined
    const socket = protocol === 'tls' ? connectTls({ host, port, ...!isIP(name) && { servername: name } }) : connectTcp({ host, port })
    this.keep(socket, peer)
    return socket
  }

  private take(text: string, peer: Peer): void {
    // One that has gone mad takes nothing away from others behind the same router.
    const most = this.tell.trusts?.(peer) ? mostFromAddress : mostFromOne
    const isTooMuch = ([[peer.address, mostFromAddress], [keyOf(peer), most]] as const).some(([who, most]) => {
      const count = (this.counted.get(who) ?? 0) + 1
      this.counted.set(who, count)
      return count > most
    })
    // What only keeps a way open through routers (RFC 5626), and what is too much.
    if (isTooMuch || text.length > longestMessage || text.trim() === '') return
    const message = readMessage(text, peer)
    if (!message) return
    if (message instanceof IncomingResponseMessage) {
      this.repeater.answered(message.viaBranch, message.method, message.statusCode ?? 0)
      return this.tell.hear(message, peer)
    }
    if (message.method === 'ACK') this.repeater.acknowledged(message.viaBranch)
    else {
      const again = this.once.take(message)
      if (again !== null) return again === '' ? undefined : this.put(again, peer)
    }
    this.tell.hear(message, peer)
  }

  private async listen(server: Server, port: number): Promise<void> {
    server.maxConnections = mostConnections
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject)
      server.listen(port, this.options.address, resolve)
    })
    server.on('error', error => this.logger.warn(error.message))
    this.servers.push(server)
  }

  private meet(socket: Socket, protocol: Protocol): void {
    this.keep(socket, { protocol, address: socket.remoteAddress ?? '', port: socket.remotePort ?? 0 })
  }

  private keep(socket: Socket, peer: Peer): void {
    this.connections.set(keyOf(peer), socket)
    socket.setTimeout(idleFor, () => socket.destroy())
    socket.on('error', () => socket.destroy())
    socket.once('close', () => {
      this.connections.delete(keyOf(peer))
      this.tell.lose(peer)
    })
    let rest = Buffer.alloc(0)
    socket.on('data', (chunk) => {
      rest = Buffer.concat([rest, chunk])
      for (;;) {
        const cut = nextMessage(rest)
        if (cut === 'broken') return socket.destroy()
        if (cut === null) return
        rest = rest.subarray(cut.end)
        // Two empty lines ask whether we are still there (RFC 5626, section 3.5.1).
        if (cut.text === '') socket.write('\r\n')
        else this.take(cut.text, peer)
      }
    })
  }
}

/** The first message in what a connection has brought: by the length it names (RFC 3261, section 18.3). null: it is not all there. */
export function nextMessage(bytes: Buffer): { text: string, end: number } | 'broken' | null {
  if (bytes.length === 0) return null
  if (bytes[0] === 13 || bytes[0] === 10) {
    if (bytes.subarray(0, 4).toString('latin1') === '\r\n\r\n') return { text: '', end: 4 }
    if (bytes.length < 4) return null
    const begin = bytes.findIndex(byte => byte !== 13 && byte !== 10)
    if (begin < 0) return { text: '', end: bytes.length }
    const after = nextMessage(bytes.subarray(begin))
    return after && after !== 'broken' ? { text: after.text, end: after.end + begin } : after
  }
  const head = bytes.indexOf('\r\n\r\n')
  if (head < 0) return bytes.length > longestMessage ? 'broken' : null
  const length = /^(?:content-length|l)[ \t]*:[ \t]*(\d{1,6})[ \t]*$/im.exec(bytes.subarray(0, head).toString('latin1'))?.[1]
  const end = head + 4 + Number(length ?? 0)
  if (length === undefined || end > longestMessage) return 'broken'
  return bytes.length < end ? null : { text: bytes.subarray(0, end).toString('utf8'), end }
}

/** Where an answer goes: to where its request came from. */
function answered(text: string): Peer | null {
  const [, protocol, rest] = /^(?:via|v)[ \t]*:[ \t]*SIP[ \t]*\/[ \t]*2\.0[ \t]*\/[ \t]*([A-Za-z]+)([^,\r\n]*)/im.exec(text) ?? []
  const address = /;received=([^;,\s]+)/.exec(rest ?? '')?.[1]
  const port = /;rport=(\d+)/.exec(rest ?? '')?.[1]
  return address && port ? { protocol: protocol!.toLowerCase() as Protocol, address, port: Number(port) } : null
}

/** Who a URI names, without what else it says. */
function nameOf(uri: string): string {
  return /sips?:([^;>]+)/i.exec(uri)?.[1]?.toLowerCase() ?? uri
}
