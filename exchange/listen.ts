import { timingSafeEqual } from 'node:crypto'
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { type FromExchange, heartbeat, longestLine, readToExchange, type ToExchange } from '../shared/link'
import { InventedClock, type Clock } from './clock'
import { LineReader } from '../shared/lines'
import type { Switch } from './switch'

/** A server that reads this much (bytes) too slowly is let go; it comes back and is told what it missed. */
const longestBacklog = 64 * 1024 * 1024

/**
 * Serves the exchange link on loopback. Whatever a peer sends, it gets an answer and the exchange goes on.
 * @param token the secret that a server must say first
 */
export async function listen(exchange: Switch, clock: Clock, options: { port: number, token: string, log: (text: string) => void }): Promise<{ port: number, server: Server }> {
  const peers = new Set<Socket>()
  const server = createServer((socket) => {
    peers.add(socket)
    socket.once('close', () => peers.delete(socket))
    servePeer(socket, exchange, clock, options.token, () => {
      for (const peer of peers) send(peer, { type: 'pong', now: exchange.now() })
    })
  })
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

function servePeer(socket: Socket, exchange: Switch, clock: Clock, token: string, tellTime: () => void): void {
  let stopListening: (() => void) | null = null
  socket.setNoDelay(true)
  socket.setTimeout(heartbeat * 3, () => socket.destroy())
  socket.on('error', () => socket.destroy())
  socket.once('close', () => stopListening?.())

  const answer = (message: ToExchange): void => {
    if (message.type === 'ping') return send(socket, { type: 'pong', now: exchange.now() })
    if (message.type === 'hello') {
      if (!sameSecret(message.token, token)) throw new Error('token is not the one this exchange was started with')
      if (stopListening) throw new Error('hello was said already')
      send(socket, { type: 'welcome', now: exchange.now(), ...exchange.history(message.since) })
      stopListening = exchange.onEvent(event => send(socket, { type: 'event', event }))
      return
    }
    if (!stopListening) throw new Error('say hello first')
    if (message.type === 'request') return send(socket, { type: 'reply', id: message.id, ...exchange.request(message.id, message.request) })
    if (!(clock instanceof InventedClock)) throw new Error('this exchange runs on real time')
    clock.advance(message.by)
    tellTime()
  }

  const lines = new LineReader(longestLine, (line) => {
    try {
      answer(readToExchange(line))
    }
    catch (error) {
      send(socket, { type: 'error', message: (error as Error).message })
    }
  }, () => send(socket, { type: 'error', message: `a line may hold ${longestLine} bytes at most; that one was skipped` }))
  socket.on('data', chunk => lines.take(chunk))
}

function sameSecret(given: string, wanted: string): boolean {
  const a = Buffer.from(given)
  const b = Buffer.from(wanted)
  return a.length === b.length && timingSafeEqual(a, b)
}
