import { timingSafeEqual } from 'node:crypto'
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { type FromExchange, heartbeat, helloWithin, longestHello, longestLine, readToExchange, type ToExchange } from '../shared/link'
import { english } from '../words/english'
import { sentenceOf } from '../core/schema/faults'
import { snapshotOf } from '../core/calls/snapshot'
import type { TelephoneAccount } from '../shared/telephone-accounts'
import { Attendance } from './attendance'
import { InventedClock, type Clock } from './clock'
import { LineReader } from '../shared/lines'
import type { Switch } from './switch'

/** A server that reads this much (bytes) too slowly is let go; it comes back and is told what it missed. */
const longestBacklog = 64 * 1024 * 1024
const mostConnections = 64

/**
 * Serves the exchange link on loopback. A server gets an answer to whatever it sends, and the exchange goes on;
 * a stranger gets one line to say who they are.
 * @param token the secret that a server must say first
 */
export async function listen(
  exchange: Switch,
  clock: Clock,
  options: {
    port: number
    token: string
    log: (text: string) => void
    onConfigured: () => void
    onTelephones: (accounts: readonly TelephoneAccount[]) => void
  },
): Promise<{ port: number, server: Server }> {
  const peers = new Set<Socket>()
  const attendance = new Attendance(exchange)
  const server = createServer(socket => {
    greet(socket, options.token, since => {
      peers.add(socket)
      socket.once('close', () => peers.delete(socket))
      return serve(socket, exchange, attendance, since, {
        configured() {
          options.onConfigured()
          attendance.settle()
        },
        telephones: options.onTelephones,
        advance(by) {
          if (!(clock instanceof InventedClock)) throw new Error('this exchange runs on real time')
          clock.advance(by)
          for (const peer of peers) send(peer, { type: 'pong', now: exchange.now() })
        },
      })
    })
  })
  server.maxConnections = mostConnections
  server.on('error', error => options.log(`link: ${error.message}`))
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(options.port, '127.0.0.1', resolve)
  })
  return { port: (server.address() as AddressInfo).port, server }
}

function send(socket: Socket, message: FromExchange): void {
  if (socket.destroyed) return
  socket.write(`${JSON.stringify(message)}\n`)
  if (socket.writableLength > longestBacklog) socket.destroy()
}

/** The id in a line that is wrong otherwise, so that whoever asked need not wait for an answer. */
function idOf(line: string): { id?: string } {
  try {
    const { id } = JSON.parse(line) as { id?: unknown }
    return typeof id === 'string' ? { id } : {}
  }
  catch {
    return {}
  }
}

type Hello = Extract<ToExchange, { type: 'hello' }>

/** Lets a server in whose first line is a hello with the right token, said in time. Everybody else hears why not, once, and is let go. */
function greet(socket: Socket, token: string, enter: (since: Hello['since']) => (line: string) => void): void {
  let take: ((line: string) => void) | null = null
  let refused = false
  socket.setNoDelay(true)
  socket.on('error', () => socket.destroy())
  const refuse = (message: string) => {
    if (refused) return
    refused = true
    socket.end(`${JSON.stringify({ type: 'error', message } satisfies FromExchange)}\n`)
    // Whoever does not read the answer, or goes on talking, is not waited for.
    setTimeout(() => socket.destroy(), 100).unref()
    socket.pause()
  }
  const late = setTimeout(() => refuse('say hello first, and at once'), helloWithin)
  socket.once('close', () => clearTimeout(late))
  const begin = (line: string): void => {
    const message = readToExchange(line)
    if (message.type !== 'hello') throw new Error('say hello first')
    if (!sameSecret(message.token, token)) throw new Error('token is not the one this exchange was started with')
    clearTimeout(late)
    take = enter(message.since)
  }
  const tooLong = () => send(socket, { type: 'error', message: `a line may hold ${longestLine} bytes at most; that one was skipped` })
  const lines = new LineReader(longestLine, (line) => {
    if (refused || socket.destroyed) return
    try {
      if (take) take(line)
      else begin(line)
    }
    catch (error) {
      if (take) send(socket, { type: 'error', message: sentenceOf(english, error), ...idOf(line) })
      else refuse(sentenceOf(english, error))
    }
  }, () => take ? tooLong() : refuse('say hello first'))
  let heard = 0
  socket.on('data', (chunk) => {
    heard += chunk.length
    if (!refused) lines.take(chunk)
    if (!take && heard > longestHello) refuse('say hello first, in one short line')
  })
}

/** Tells a server what happens and carries out what it asks, until it falls silent. Gives back what takes its next line. */
function serve(
  socket: Socket,
  exchange: Switch,
  attendance: Attendance,
  since: Hello['since'],
  tell: { configured: () => void, advance: (by: number) => void, telephones: (accounts: readonly TelephoneAccount[]) => void },
): (line: string) => void {
  let heard = performance.now()
  const watching = setInterval(() => {
    if (performance.now() - heard > heartbeat * 3) socket.destroy()
  }, heartbeat)
  const { state, ...past } = exchange.history(since)
  send(socket, { type: 'welcome', now: exchange.now(), state: snapshotOf(state), ...past })
  const stopListening = exchange.onEvent(event => send(socket, { type: 'event', event }))
  socket.once('close', () => {
    clearInterval(watching)
    stopListening()
    attendance.gone(socket)
  })
  return line => {
    heard = performance.now()
    const message = readToExchange(line)
    switch (message.type) {
      case 'hello':
        throw new Error('hello was said already')
      case 'ping':
        attendance.say(socket, message.present)
        return send(socket, { type: 'pong', now: exchange.now() })
      case 'request':
        return send(socket, { type: 'reply', id: message.id, ...exchange.request(message.id, message.request, message.before) })
      case 'inquire':
        return send(socket, { type: 'outcome', id: message.id, reply: exchange.outcome(message.id) })
      case 'configure': {
        const { from, version, changes } = message
        const { version: before } = exchange.state.company
        send(socket, { type: 'reply', id: message.id, ...exchange.request(message.id, { service: 'configure', from, version, changes }) })
        if (exchange.state.company.version !== before) tell.configured()
        return
      }
      case 'telephones':
        return tell.telephones(message.accounts)
      case 'advance':
        return tell.advance(message.by)
    }
  }
}

function sameSecret(given: string, wanted: string): boolean {
  const a = Buffer.from(given)
  const b = Buffer.from(wanted)
  return a.length === b.length && timingSafeEqual(a, b)
}
