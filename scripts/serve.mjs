import { existsSync } from 'node:fs'
import { randomBytes } from 'node:crypto'
import { join } from 'node:path'
import { isEnding, toldToEnd } from './ending.mjs'
import { firstWord, root, startNode } from './processes.mjs'
import { run, say, Stop } from './say.mjs'

const usage = `npm run serve [-- exchange|server]

  Exchange and server of a house of one's own, without anything of the demo; or one of them alone, so that the other can be ended and started again
  while calls go on. What they are told stands in docs/operations.md. Built before by npm run build.`
const [part, ...more] = process.argv.slice(2)
const pause = 1_000

run(async () => {
  if (part === '--help') return console.log(usage)
  if (more.length > 0 || (part !== undefined && part !== 'exchange' && part !== 'server')) throw new Stop(usage)
  for (const file of ['exchange/main.mjs', 'commands/server.mjs'])
    if (!existsSync(join(root, '.output', file))) throw new Stop('There is nothing to serve yet: run "npm run build" first.')
  /** @type {Record<string, string | undefined>} */
  const env = { NODE_ENV: 'production', NITRO_HOST: '127.0.0.1', ...process.env }
  if (part !== 'server') {
    // Both together need no secret of their own.
    if (part === undefined) env.NUXT_LINK_TOKEN ??= env.NUXT_LINK_TOKEN_FILE ? undefined : randomBytes(24).toString('hex')
    if (env.NUXT_LINK_TOKEN) env.ESTAFETTE_LINK_TOKEN ??= env.NUXT_LINK_TOKEN
    else if (env.NUXT_LINK_TOKEN_FILE) env.ESTAFETTE_LINK_TOKEN_FILE ??= env.NUXT_LINK_TOKEN_FILE
    env.NUXT_EXCHANGE_PORT = String(await keep('exchange', ['--port', env.NUXT_EXCHANGE_PORT ?? '0'], env))
  }
  if (part !== 'exchange') await keep('server', [], env)
  say(`serving${part ? ` the ${part}` : ''}; end with SIGTERM`)
  await toldToEnd()
})

/**
 * Keeps one of the programs running. What ends before it was ever there is not started again: it has said why.
 * @param {'exchange' | 'server'} name
 * @param {string[]} args
 * @param {Record<string, string | undefined>} env
 * @returns {Promise<number>} its port
 */
async function keep(name, args, env) {
  const file = join(root, '.output', name === 'exchange' ? 'exchange/main.mjs' : 'commands/server.mjs')
  let begun = false
  // Calls may go on beside it: it is tried for as long as we are here.
  const again = () => void setTimeout(() => {
    const where = name === 'exchange' ? ['--port', env.NUXT_EXCHANGE_PORT ?? '0'] : args
    if (!isEnding()) keep(name, where, env).catch(error => (say(error.message), again()))
  }, pause)
  const child = startNode(file, args, env, {
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
