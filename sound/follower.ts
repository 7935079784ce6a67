import { connect, type Socket } from 'node:net'
import { evolve, evolveAll } from '../core/calls/evolve'
import type { ExchangeState, NumberedEvent } from '../core/calls/model'
import { stateOf } from '../core/calls/snapshot'
import { LineReader } from '../shared/lines'
import { type FromExchange, heartbeat, linkVersion, type ToExchange } from '../shared/link'

const pause = 250
/** Bytes: a welcome carries the whole state. */
const longestMessage = 256 * 1024 * 1024

/** Hears what happens at the exchange, and holds the same picture as every other part. Asks for nothing. Comes back by itself. */
export class Follower {
  private current: ExchangeState | null = null
  private socket: Socket | null = null
  private heard = 0
  private closed = false
  private welcomed = false
  private again: NodeJS.Timeout | undefined
  private readonly beating: NodeJS.Timeout

  /** @param onEvent with the state after it */
  constructor(private readonly port: number, private readonly token: string, private readonly onEvent: (event: NumberedEvent, state: ExchangeState) => void) {
    this.open()
    this.beating = setInterval(() => this.beat(), heartbeat)
  }

  /** As it was last heard of, also while the exchange can't be heard: whoever talks goes on. Null until it was: nobody knows then who may hear whom. */
  get state(): ExchangeState | null {
    return this.current
  }

  /** Whether the exchange is heard now. */
  get up(): boolean {
    return this.welcomed
  }

  close(): void {
    this.closed = true
    clearInterval(this.beating)
    clearTimeout(this.again)
    this.socket?.destroy()
  }

  private open(): void {
    const socket = connect({ port: this.port, host: '127.0.0.1', noDelay: true })
    this.socket = socket
    this.heard = performance.now()
    const lines = new LineReader(longestMessage, line => this.take(JSON.parse(line) as FromExchange), () => socket.destroy())
    socket.once('connect', () => this.say({ type: 'hello', version: linkVersion, token: this.token }))
    socket.on('data', (chunk) => {
      this.heard = performance.now()
      try {
        lines.take(chunk)
      }
      catch (error) {
        socket.destroy(error as Error)
      }
    })
    socket.on('error', () => {})
    socket.once('close', () => {
      this.welcomed = false
      if (!this.closed) this.again = setTimeout(() => this.open(), pause)
    })
  }

  private take(message: FromExchange): void {
    if (message.type === 'welcome') {
      this.current = evolveAll(stateOf(message.state), message.events)
      this.welcomed = true
    }
    if (message.type !== 'event' || !this.current) return
    this.current = evolve(this.current, message.event)
    this.onEvent(message.event, this.current)
  }

  /** An exchange that has said nothing for three beats is as good as none. */
  private beat(): void {
    if (performance.now() - this.heard > heartbeat * 3) this.socket?.destroy()
    else this.say({ type: 'ping', present: [] })
  }

  private say(message: ToExchange): void {
    if (this.socket?.readyState === 'open') this.socket.write(`${JSON.stringify(message)}\n`)
  }
}
