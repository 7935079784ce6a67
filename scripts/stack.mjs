import { randomBytes } from 'node:crypto'
import { join } from 'node:path'
import { isEnding } from './ending.mjs'
import { anyPort, end, firstWord, hasEnded, root, startNode, until } from './processes.mjs'
import { Stop } from './say.mjs'

/** @type {[string, string][]} */
export const demoSignIns = [
  ['ines', 'operator'], ['tomas', 'operator'], ['bryony', 'supervisor'], ['admin', 'administrator'], ['staff', 'staff member'],
]
export const demoPassword = 'hand-me-over'

/**
 * @typedef {object} StackOptions
 * @property {string} databaseUrl where the figures are kept
 * @property {string[]} [exchangeArgs] for example ['--pace', 'still']
 * @property {number} [port] of the server; a free one by default
 * @property {string} [sessionSecret] seals the cookies
 * @property {'inherit' | 'ignore'} [output]
 * @property {((text: string) => void) | null} [watch] starts again what ends unasked, and says so
 * @property {{ port: number, token: string }} [joins] an exchange that runs already: this is one more server beside others
 * @property {Record<string, string>} [serverEnv] what else the server is told
 * @property {string} [server] the built server
 * @property {string} [exchange] the built exchange
 * @property {string | null} [sound] the built sound process; null: none
 * @property {string | null} [sip] where telephones of the network register, as `address:port`; null: none are served
 */

/** @typedef {ReturnType<typeof createStack>} Stack */

/**
 * Exchange and server on one database. Each can be killed and started again; with `watch`, what ends unasked is started again by itself.
 * @param {StackOptions} options
 */
export function createStack({
  databaseUrl,
  exchangeArgs = [],
  port = 0,
  sessionSecret = randomBytes(32).toString('hex'),
  output = 'inherit',
  watch = null,
  joins,
  serverEnv = {},
  server: serverFile = join(root, '.output/commands/server.mjs'),
  exchange: exchangeFile = join(root, '.output/exchange/demo.mjs'),
  sound: soundFile = null,
  sip = null,
}) {
  const token = joins?.token ?? randomBytes(24).toString('hex')
  let exchangePort = joins?.port ?? 0
  let soundPort = 0
  let stopping = false
  const stack = {
    token,
    sessionSecret,
    /** @type {import('node:child_process').ChildProcess | null} */
    exchange: null,
    /** @type {import('node:child_process').ChildProcess | null} */
    server: null,
    /** @type {import('node:child_process').ChildProcess | null} */
    sound: null,
    get exchangePort() {
      return exchangePort
    },
    get soundPort() {
      return soundPort
    },
    get url() {
      return `http://127.0.0.1:${port}`
    },

    async startExchange() {
      // Telephones are heard at the sound process: it is told of each other's port beforehand.
      if (sip && soundPort === 0) soundPort = await anyPort()
      const exchange = stack.exchange = startNode(
        exchangeFile,
        ['--port', String(exchangePort), ...exchangeArgs, ...sip ? ['--sip', sip, '--sound', String(soundPort)] : []],
        { ESTAFETTE_LINK_TOKEN: token },
        { output, onExit: () => ended('exchange', stack.startExchange) },
      )
      exchangePort = (await firstWord(exchange, 'The exchange ended at once: see its message above.')).port
    },

    async startSound() {
      if (!soundFile) return
      const sound = stack.sound = startNode(
        soundFile,
        ['--port', String(soundPort), '--exchange', String(exchangePort)],
        { ESTAFETTE_LINK_TOKEN: token },
        // Whoever talks waits for it.
        { output, onExit: () => ended('sound', stack.startSound, 200) },
      )
      soundPort = (await firstWord(sound, 'The sound process ended at once: see its message above.')).port
    },

    async startServer() {
      const server = stack.server = startNode(
        serverFile,
        [],
        {
          NODE_ENV: 'production',
          NITRO_HOST: '127.0.0.1',
          NITRO_PORT: String(port),
          NITRO_SHUTDOWN_TIMEOUT: '1500',
          NUXT_DATABASE_URL: databaseUrl,
          NUXT_EXCHANGE_PORT: String(exchangePort),
          NUXT_LINK_TOKEN: token,
          ...soundPort && { NUXT_SOUND_PORT: String(soundPort) },
          ...sip && { NUXT_SIP: sip },
          NUXT_DEMO: 'true',
          NUXT_SESSION_PASSWORD: sessionSecret,
          // The demo runs on loopback without TLS.
          NUXT_SESSION_COOKIE_SECURE: 'false',
          NUXT_SPILL_FOLDER: join(root, '.data/journal'),
          ...serverEnv,
        },
        { output, onExit: () => ended('server', stack.startServer) },
      )
      port = (await firstWord(server, 'The server ended at once: see its message above.')).port
      await stack.healthy()
    },

    /** Waits until database and exchange are there for the server. */
    healthy() {
      return until(async () => {
        if (!stack.server || hasEnded(stack.server)) throw new Stop('The server ended: see its message above.')
        const answer = await fetch(`${stack.url}/api/ready`).catch(() => null)
        return answer?.ok ? answer.json() : null
      }, 'The server did not get ready within a minute.')
    },

    async start() {
      await stack.startExchange()
      await stack.startSound()
      await stack.startServer()
    },

    async stop() {
      stopping = true
      if (stack.server) await end(stack.server)
      if (stack.sound) await end(stack.sound)
      if (stack.exchange) await end(stack.exchange)
    },
  }

  /**
   * @param {string} name
   * @param {() => Promise<void>} startAgain
   * @param {number} [pause] milliseconds
   */
  function ended(name, startAgain, pause = 1_000) {
    if (stopping || isEnding() || !watch) return
    watch(`the ${name} ended unasked; starting it again`)
    setTimeout(() => {
      if (!stopping) startAgain().catch(error => watch(error.message))
    }, pause)
  }

  return stack
}
