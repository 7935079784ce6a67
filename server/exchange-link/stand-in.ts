import { randomUUID } from 'node:crypto'
import { connect, type Socket } from 'node:net'
import type { DeviceId, Request } from '~~/core/calls/model'
import type { CompanyChange } from '~~/core/company/changes'
import { type FromExchange, heartbeat, linkVersion, type ToExchange } from '~~/shared/link'
import type { TelephoneAccount } from '~~/shared/telephone-accounts'
import { LineReader } from '~~/shared/lines'
import type { Position } from '~~/shared/feed'
import { type ExchangeLink, type ExchangeReply, ExchangeSilent, ExchangeUnreachable, type History, type LinkListener, NotUnderstood } from './link'
import { t } from '../language'

const longestAnswer = 5_000
/** An exchange that reads the whole configuration of a large company says nothing meanwhile. */
const longestConfiguring = 30_000
/**
 * A request that reaches the exchange later than this (milliseconds) is not carried out: less than one waits for the answer, and both clocks may be a
 * little off.
 */
const latest = longestAnswer - 500
const shortestPause = 100
const longestPause = 2_000
/** A welcome carries the whole state and every event missed. */
const longestMessage = 256 * 1024 * 1024

interface Pending<T> {
  message: ToExchange
  resolve: (answer: T) => void
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
  private heard = 0
  lastHeard: number | null = null
  lastProblem: string | null = null
  private next: NodeJS.Timeout | undefined
  private here: DeviceId[] = []
  private accounts: TelephoneAccount[] | null = null
  private readonly pending = new Map<string, Pending<ExchangeReply>>()
  private readonly inquiries = new Map<string, Pending<ExchangeReply | null>>()
  private readonly beating: NodeJS.Timeout

  constructor(
    private readonly port: number,
    private readonly token: string,
    private readonly listener: LinkListener,
    private readonly log: (text: string) => void,
  ) {
    this.open()
    this.beating = setInterval(() => this.beat(), heartbeat)
  }

  get up(): boolean {
    return this.welcomed
  }

  request(id: string, request: Request): Promise<ExchangeReply> {
    if (!this.welcomed) return Promise.reject(new ExchangeUnreachable())
    return this.ask(this.pending, id, { type: 'request', id, request, before: Math.round(this.listener.exchangeNow() + latest) }, () => new ExchangeSilent())
  }

  configure(from: number, version: number, changes: CompanyChange[]): Promise<ExchangeReply> {
    if (!this.welcomed) return Promise.reject(new ExchangeUnreachable())
    const id = `configure:${randomUUID()}`
    return this.ask(this.pending, id, { type: 'configure', id, from, version, changes }, () => new ExchangeSilent(), longestConfiguring)
  }

  inquire(id: string): Promise<ExchangeReply | null> {
    if (!this.welcomed) return Promise.reject(new ExchangeUnreachable())
    return this.ask(this.inquiries, id, { type: 'inquire', id }, () => new ExchangeUnreachable())
  }

  /** On a connection of its own: the other one goes on telling what happens. */
  history(since: Position | undefined): Promise<History> {
    if (!this.welcomed) return Promise.reject(new ExchangeUnreachable())
    return new Promise((resolve, reject) => {
      const socket = connect({ port: this.port, host: '127.0.0.1', noDelay: true })
      const fail = () => socket.destroy()
      const late = setTimeout(fail, longestConfiguring)
      const lines = new LineReader(longestMessage, (line) => {
        const message = JSON.parse(line) as FromExchange
        if (message.type === 'welcome') resolve(message)
        socket.destroy()
      }, fail)
      socket.once('connect', () => socket.write(`${JSON.stringify({ type: 'hello', version: linkVersion, token: this.token, since } satisfies ToExchange)}\n`))
      socket.on('data', chunk => lines.take(chunk))
      socket.on('error', fail)
      socket.once('close', () => {
        clearTimeout(late)
        reject(new ExchangeUnreachable())
      })
    })
  }

  async tryNow(): Promise<void> {
    if (this.welcomed || this.closed) return
    clearTimeout(this.next)
    if (this.socket?.destroyed ?? true) this.open()
    const socket = this.socket!
    await new Promise<void>((resolve) => {
      socket.once('data', () => setImmediate(resolve))
      socket.once('close', () => resolve())
    })
  }

  telephones(accounts: TelephoneAccount[]): void {
    this.accounts = accounts
    if (this.welcomed) this.send({ type: 'telephones', accounts })
  }

  present(devices: DeviceId[]): void {
    this.here = devices
    if (this.welcomed) this.ping()
  }

  close(): void {
    this.closed = true
    clearInterval(this.beating)
    this.socket?.destroy()
  }

  /** Says that we are there, and lets go of an exchange that has said nothing for three beats: what we say ourselves is no sign of life. */
  private beat(): void {
    const configuring = [...this.pending.values()].some(({ message }) => message.type === 'configure')
    if (this.welcomed && performance.now() - this.heard > (configuring ? longestConfiguring : heartbeat * 3))
      this.socket?.destroy(new Error('the exchange fell silent'))
    else if (this.welcomed) this.ping()
  }

  private ping(): void {
    this.send({ type: 'ping', present: this.listener.operatorsAmong(this.here) })
  }

  private ask<T>(where: Map<string, Pending<T>>, id: string, message: ToExchange, late: () => Error, limit = longestAnswer): Promise<T> {
    return new Promise((resolve, reject) => {
      const timeout = setTimeout(() => settle(where, id)?.reject(late()), limit)
      const before = settle(where, id)
      where.set(id, {
        message,
        timeout,
        resolve: (answer) => { before?.resolve(answer); resolve(answer) },
        reject: (error) => { before?.reject(error); reject(error) },
      })
      this.send(message)
    })
  }

  private open(): void {
    if (this.closed) return
    const socket = connect({ port: this.port, host: '127.0.0.1', noDelay: true })
    this.socket = socket
    // An exchange that lets us connect and then says nothing is as good as none.
    const late = setTimeout(() => socket.destroy(new Error('it says nothing')), heartbeat * 3)
    const lines = new LineReader(longestMessage, line => this.take(JSON.parse(line) as FromExchange), () => socket.destroy(new Error('a message was too long')))
    socket.once('connect', () => this.send({ type: 'hello', version: linkVersion, token: this.token, since: this.listener.since() }))
    socket.on('data', (chunk) => {
      clearTimeout(late)
      this.heard = performance.now()
      this.lastHeard = Date.now()
      try {
        lines.take(chunk)
      }
      catch (error) {
        socket.destroy(error as Error)
      }
    })
    socket.on('error', (error) => {
      if (this.welcomed) this.log(`exchange link: ${error.message}`)
      const code = (error as NodeJS.ErrnoException).code
      this.lastProblem = code === 'ECONNREFUSED' ? t('answers.linkNothingAnswers') : t('answers.linkWasLost', { why: code ?? error.message })
    })
    socket.once('close', () => {
      clearTimeout(late)
      this.gone()
    })
  }

  private gone(): void {
    if (this.welcomed) {
      this.welcomed = false
      this.log('exchange link: lost')
      this.listener.lost()
    }
    if (this.closed) return
    this.next = setTimeout(() => this.open(), this.pause)
    this.pause = Math.min(longestPause, this.pause * 2)
  }

  private take(message: FromExchange): void {
    switch (message.type) {
      case 'welcome': {
        this.pause = shortestPause
        this.listener.welcome(message.now, message)
        this.log(`exchange link: up, epoch ${message.state.epoch}`)
        this.welcomed = true
        this.ping()
        if (this.accounts) this.telephones(this.accounts)
        this.askAgain(message.state.epoch)
        return
      }
      case 'event': return this.listener.event(message.event)
      case 'pong': return this.listener.time(message.now)
      case 'reply': return settle(this.pending, message.id)?.resolve(message)
      case 'outcome': return settle(this.inquiries, message.id)?.resolve(message.reply)
      case 'error':
        this.log('exchange link: the exchange says that something is wrong')
        if (message.id !== undefined) settle(this.pending, message.id)?.reject(new NotUnderstood(message.message))
    }
  }

  /** The same exchange answers a repeated id with the first reply; a new one knows nothing of the calls that were meant. */
  private askAgain(epoch: string): void {
    const same = epoch === this.epoch
    this.epoch = epoch
    for (const [id, { message }] of [...this.pending]) {
      if (same) this.send(message)
      else settle(this.pending, id)?.reject(new ExchangeUnreachable())
    }
  }

  private send(message: ToExchange): void {
    if (this.socket?.readyState === 'open') this.socket.write(`${JSON.stringify(message)}\n`)
  }
}

function settle<T>(where: Map<string, Pending<T>>, id: string): Pending<T> | undefined {
  const pending = where.get(id)
  if (pending) clearTimeout(pending.timeout)
  where.delete(id)
  return pending
}
