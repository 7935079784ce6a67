import '#nitro-internal-pollyfills'
import { Server, type IncomingMessage } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Duplex } from 'node:stream'
import wsAdapter from 'crossws/adapters/node'
import { toNodeListener } from 'h3'
import { useNitroApp } from 'nitropack/runtime'
// The framework's own way to stop and to log; it publishes no types for them.
// @ts-expect-error no declarations
import { setupGracefulShutdown, trapUnhandledNodeErrors } from 'nitropack/runtime/internal'

/**
 * The server's own beginning, in place of the framework's: a WebSocket is let in at one path only, from this console only, with short messages only,
 * and nothing that goes wrong on the way leaves a socket behind.
 */
const feedPath = '/api/feed'
/** Bytes; a browser says little. */
const longestMessage = 4 * 1024

const nitroApp = useNitroApp()
const server = new Server({ requestTimeout: 30_000, headersTimeout: 10_000 }, toNodeListener(nitroApp.h3App))
const port = Number(process.env.NITRO_PORT ?? process.env.PORT ?? 3000)
const host = process.env.NITRO_HOST ?? process.env.HOST ?? '127.0.0.1'

const listener = server.listen({ port, host }, () => {
  const bound = (server.address() as AddressInfo).port
  console.log(`Listening on http://${host}:${bound}`)
  process.send?.({ port: bound })
})
server.once('error', (error) => {
  console.error(`The server can't listen on ${host}:${port}: ${error.message}`)
  process.exit(1)
})
trapUnhandledNodeErrors()
setupGracefulShutdown(listener, nitroApp)

const { handleUpgrade } = wsAdapter({ ...nitroApp.h3App.websocket as object, serverOptions: { maxPayload: longestMessage } })

server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
  socket.on('error', () => socket.destroy())
  const refusal = refusalOf(request)
  if (refusal) return refuse(socket, refusal)
  handleUpgrade(request, socket, head).catch(() => refuse(socket, '503 Service Unavailable'))
})

function refusalOf({ url = '', headers: { origin, host: own } }: IncomingMessage): string | null {
  if (!own || !URL.canParse(`http://${own}/`)) return '400 Bad Request'
  if (url.split('?')[0] !== feedPath) return '404 Not Found'
  // A page of another site has an origin of its own; one that hides it is no console of ours either.
  return origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== own) ? '403 Forbidden' : null
}

function refuse(socket: Duplex, status: string): void {
  socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n`, () => socket.destroy())
}
