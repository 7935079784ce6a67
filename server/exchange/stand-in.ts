import { connect, type Socket } from 'node:net'
import type { Request } from '~~/core/calls/model'
import { type FromExchange, heartbeat, linkVersion, type ToExchange } from '~~/shared/link'
import { LineReader } from '~~/shared/lines'
import { type ExchangeLink, type ExchangeReply, ExchangeUnreachable, type LinkListener } from './link'

const longestAnswer = 5_000
const shortestPause = 100
const longestPause = 2_000
/** A welcome carries the whole state and every event missed. */
const longestMessage = 256 * 1024 * 1024

interface Pending {
  message: ToExchange
  resolve: (reply: ExchangeReply) => void
  reject: (error: Error) => void
  timeout: NodeJS.Timeout
}

/** The link to the stand-in exchange over TCP on loopback. Comes back by itself; asks again what was not answered. */
export class StandInLink implements ExchangeLink {
  private socket: Socket | null = null
  private welcomed = false
  private closed = false
  private pause = shortestPause
  private epoch = ''
  private readonly pending = new Map<string, Pending>()
  private readonly beating: NodeJS.Timeout

  constructor(
    private readonly port: number,
    private readonly token: string,
    private readonly listener: LinkListener,
    private readonly log: (text: string) => void,
  ) {
    this.open()
    this.beating = setInterval(() => this.send({ type: 'ping' }), heartbeat)
  }

  get up(): boolean {
    return this.welcomed
  }

  request(id: string, request: Request): Promise<ExchangeReply> {
    if (!this.welcomed) return Promise.reject(new ExchangeUnreachable())
    return new Promise((resolve, reject) => {
      const message: ToExchange = { type: 'request', id, request }
      const timeout = setTimeout(() => this.settle(id)?.reject(new ExchangeUnreachable()), longestAnswer)
      const before = this.settle(id)
      this.pending.set(id, {
        message,
        timeout,
        resolve: (reply) => { before?.resolve(reply); resolve(reply) },
        reject: (error) => { before?.reject(error); reject(error) },
      })
      this.send(message)
    })
  }

  close(): void {
    this.closed = true
    clearInterval(this.beating)
    this.socket?.destroy()
  }

  private open(): void {
    if (this.closed) return
    const socket = connect({ port: this.port, host: '127.0.0.1', noDelay: true })
    this.socket = socket
    socket.setTimeout(heartbeat * 3, () => socket.destroy(new Error('the exchange fell silent')))
    const lines = new LineReader(longestMessage, line => this.take(JSON.parse(line) as FromExchange), () => socket.destroy(new Error('a message was too long')))
    socket.once('connect', () => this.send({ type: 'hello', version: linkVersion, token: this.token, since: this.listener.since() }))
    socket.on('data', (chunk) => {
      try {
        lines.take(chunk)
      }
      catch (error) {
        socket.destroy(error as Error)
      }
    })
    socket.on('error', error => this.welcomed && this.log(`exchange link: ${error.message}`))
    socket.once('close', () => this.gone())
  }

  private gone(): void {
    if (this.welcomed) {
      this.welcomed = false
      this.log('exchange link: lost')
      this.listener.lost()
    }
    if (this.closed) return
    setTimeout(() => this.open(), this.pause)
    this.pause = Math.min(longestPause, this.pause * 2)
  }

  private take(message: FromExchange): void {
    switch (message.type) {
      case 'welcome': {
        this.pause = shortestPause
        this.listener.welcome(message.now, message.state, message.events, message.complete)
        this.log(`exchange link: up, epoch ${message.state.epoch}`)
        this.welcomed = true
        this.askAgain(message.state.epoch)
        return
      }
      case 'event': return this.listener.event(message.event)
      case 'pong': return this.listener.time(message.now)
      case 'reply': return this.settle(message.id)?.resolve(message)
      case 'error': this.log(`exchange link: the exchange says: ${message.message}`)
    }
  }

  /** The same exchange answers a repeated id with the first reply; a new one knows nothing of the calls that were meant. */
  private askAgain(epoch: string): void {
    const same = epoch === this.epoch
    this.epoch = epoch
    for (const [id, { message }] of [...this.pending]) {
      if (same) this.send(message)
      else this.settle(id)?.reject(new ExchangeUnreachable())
    }
  }

  private settle(id: string): Pending | undefined {
    const pending = this.pending.get(id)
    if (pending) clearTimeout(pending.timeout)
    this.pending.delete(id)
    return pending
  }

  private send(message: ToExchange): void {
    if (this.socket?.readyState === 'open') this.socket.write(`${JSON.stringify(message)}\n`)
  }
}
