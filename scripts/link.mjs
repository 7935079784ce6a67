import { once } from 'node:events'
import { connect } from 'node:net'
import { createInterface } from 'node:readline'

/** @typedef {{ type: string, at: number, call: string, device: string, joined?: string, party?: object }} LinkEvent as far as scripts read it */
/** @typedef {{ call?: string, refusal?: { code: string, sentence: string } }} Reply */

/**
 * Speaks the exchange link as the network and telephones do: for scripts that play callers and colleagues.
 * @param {{ exchangePort: number, token: string }} stack
 * @param {(event: LinkEvent) => void} [onEvent] hears every event
 */
export async function talkTo(stack, onEvent = () => {}) {
  const socket = connect(stack.exchangePort, '127.0.0.1')
  /** @type {Map<string, (reply: Reply) => void>} */
  const replies = new Map()
  /** @type {((value?: unknown) => void)[]} */
  const pongs = []
  let serial = 0
  const prefix = `script-${process.pid}-${Date.now()}`
  /** @param {object} message */
  const say = message => socket.write(`${JSON.stringify(message)}\n`)
  /** @type {Promise<void>} */
  const welcome = new Promise((resolve) => {
    // An exchange that is ended takes the link with it: whoever waits for an answer is told by their own time limit.
    createInterface({ input: socket }).on('error', () => {}).on('line', (line) => {
      const message = JSON.parse(line)
      if (message.type === 'welcome') resolve()
      if (message.type === 'event') onEvent(message.event)
      if (message.type === 'pong') pongs.shift()?.()
      if (message.type !== 'reply') return
      replies.get(message.id)?.(message)
      replies.delete(message.id)
    })
  })
  await once(socket, 'connect')
  say({ type: 'hello', version: 8, token: stack.token })
  await welcome
  /** @param {object} message */
  const pong = message => new Promise((resolve) => {
    pongs.push(resolve)
    say(message)
  })
  const beat = setInterval(() => void pong({ type: 'ping', present: [] }), 2_000)
  socket.once('close', () => clearInterval(beat))
  return {
    /**
     * Asks for a service and gives the reply.
     * @param {object} request
     * @returns {Promise<Reply>}
     */
    ask: request => new Promise((resolve) => {
      const id = `${prefix}-${++serial}`
      replies.set(id, resolve)
      say({ type: 'request', id, request })
    }),
    /**
     * Moves an invented clock on by seconds, one at a time, as a morning would pass.
     * @param {number} seconds
     */
    async advance(seconds) {
      for (let i = 0; i < seconds; i++) await pong({ type: 'advance', by: 1_000 })
    },
    close: () => socket.destroy(),
  }
}
