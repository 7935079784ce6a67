import { existsSync } from 'node:fs'
import { randomBytes } from 'node:crypto'
import { join } from 'node:path'
import { isEnding, toldToEnd } from './ending.mjs'
import { firstWord, root, startNode } from './processes.mjs'
import { run, say, Stop } from './say.mjs'

const usage = `npm run serve [-- exchange|sound|server]

  Exchange, sound and server of a house of one's own, without anything of the demo; or one of them alone, so that the others can be ended and started
  again while calls go on. What they are told stands in docs/operations.md. Built before by npm run build.`
const [part, ...more] = process.argv.slice(2)
const pause = 1_000
const programs = { exchange: 'exchange/main.mjs', sound: 'sound/main.mjs', server: 'commands/server.mjs' }

run(async () => {
  if (part === '--help') return console.log(usage)
  if (more.length > 0 || (part !== undefined && !Object.hasOwn(programs, part))) throw new Stop(usage)
  for (const file of Object.values(programs))
    if (!existsSync(join(root, '.output', file))) throw new Stop('There is nothing to serve yet: run "npm run build" first.')
  /** @type {Record<string, string | undefined>} */
  const env = { NODE_ENV: 'production', NITRO_HOST: '127.0.0.1', ...process.env }
  if (part !== 'server') {
    // All together need no secret of their own.
    if (part === undefined) env.NUXT_LINK_TOKEN ??= env.NUXT_LINK_TOKEN_FILE ? undefined : randomBytes(24).toString('hex')
    if (env.NUXT_LINK_TOKEN) env.ESTAFETTE_LINK_TOKEN ??= env.NUXT_LINK_TOKEN
    else if (env.NUXT_LINK_TOKEN_FILE) env.ESTAFETTE_LINK_TOKEN_FILE ??= env.NUXT_LINK_TOKEN_FILE
  }
  if (part === undefined || part === 'exchange') {
    // Telephones are heard at the sound process: the exchange is told where that will be.
    if (env.NUXT_SIP && !env.NUXT_SOUND_PORT)
      throw new Stop('NUXT_SIP needs NUXT_SOUND_PORT beside it: the port of the sound process, where telephones are heard.')
    const sip = env.NUXT_SIP ? ['--sip', env.NUXT_SIP, '--sound', env.NUXT_SOUND_PORT ?? ''] : []
    env.NUXT_EXCHANGE_PORT = String(await keep('exchange', () => ['--port', env.NUXT_EXCHANGE_PORT ?? '0', ...sip], env))
  }
  if (part === undefined || part === 'sound') {
    const udp = env.ESTAFETTE_SOUND_UDP ? ['--udp', env.ESTAFETTE_SOUND_UDP] : []
    const args = () => ['--port', env.NUXT_SOUND_PORT ?? '0', '--exchange', env.NUXT_EXCHANGE_PORT ?? '', ...udp]
    env.NUXT_SOUND_PORT = String(await keep('sound', args, env))
  }
  if (part === undefined || part === 'server') await keep('server', () => [], env)
  say(`serving${part ? ` the ${part}` : ''}; end with SIGTERM`)
  await toldToEnd()
})

/**
 * Keeps one of the programs running. What ends before it was ever there is not started again: it has said why.
 * @param {'exchange' | 'sound' | 'server'} name
 * @param {() => string[]} args
 * @param {Record<string, string | undefined>} env
 * @returns {Promise<number>} its port
 */
async function keep(name, args, env) {
  const file = join(root, '.output', programs[name])
  let begun = false
  // Calls may go on beside it: it is tried for as long as we are here.
  const again = () => void setTimeout(() => {
    if (!isEnding()) keep(name, args, env).catch(error => (say(error.message), again()))
  }, pause)
  const child = startNode(file, args(), env, {
    onExit() {
      if (!begun || isEnding()) return
      say(`the ${name} ended unasked; starting it again`)
      again()
    },
  })
  const { port } = await firstWord(child, `The ${name} could not be started: see its message above.`)
  begun = true
  return port
}
