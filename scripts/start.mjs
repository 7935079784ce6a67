import { randomBytes } from 'node:crypto'
import { join } from 'node:path'
import { spawn } from 'node:child_process'
import { parseArgs } from 'node:util'
import { prepareDatabase } from './database.mjs'
import { buildCommands, buildExchange, buildWhenStale, installNpmPackages, officeProgram } from './packages.mjs'
import { startPostgres } from './postgres.mjs'
import { end, freePort, root, startNode } from './processes.mjs'
import { run, say, Stop } from './say.mjs'
import { sessionSecret } from './secrets.mjs'
import { createStack, demoPassword, demoSignIns } from './stack.mjs'

const historyDays = 180
const demoSize = 182
const largestCompany = 20_000
/** Where the office's calendars are served, if it is free. */
const officePort = 3001
const usage = `npm start -- [--fresh] [--pace quiet|easy|brisk|rush|still] [--seed N] [--scene busy|cancelled] [--people N] [--port N]

  --fresh   begins the demo anew: all figures are thrown away
  --pace    how busy it is: a caller about every 60, 25, 12 or 5 seconds, or nobody at all
  --seed    other callers, other colleagues (the same seed gives the same ones)
  --scene   busy: begins in the middle of a crowded minute; cancelled: when a sailing has just been cancelled; each waits until somebody signs in
  --people  a company of another size, up to 20000 people; each size keeps figures of its own
  --port    where the console is served; 3000 if it is free`

run(async () => {
  const options = readOptions()
  if (options.help) return console.log(usage)
  const people = Number(options.people)
  if (!/^\d+$/.test(options.people) || people < 1 || people > largestCompany)
    throw new Stop(`--people is a whole number from 1 to ${largestCompany}.\n\n${usage}`)
  installNpmPackages()
  let exchange
  if (options.dev) {
    exchange = await buildExchange(join(root, '.data/dev-exchange.mjs'))
    await buildExchange(officeProgram, 'demo/office.ts')
    await buildCommands()
  }
  else await buildWhenStale()

  say('starting PostgreSQL')
  const postgres = await startPostgres('postgres', { fresh: options.fresh })
  const port = await freePort(Number(options.port))
  const calendars = `http://127.0.0.1:${await freePort(port === officePort ? 0 : officePort)}`
  const occupancyToken = randomBytes(24).toString('hex')
  const customerToken = randomBytes(24).toString('hex')
  const serverEnv = {
    NUXT_CALENDAR_ORIGINS: calendars, NUXT_OCCUPANCY_TOKEN: occupancyToken, NUXT_CUSTOMER_ADDRESS: `${calendars}/customers`,
    NUXT_CUSTOMER_NAME: 'Merrowby orders', NUXT_CUSTOMER_TOKEN: customerToken,
  }
  const databaseUrl = await prepareDatabase(postgres.superuserUrl, people === demoSize ? 'estafette' : `estafette_${people}`, {
    people, history: historyDays, calendars,
  }).catch(async (error) => {
    await postgres.stop()
    throw error
  })
  const stack = createStack({
    databaseUrl,
    exchangeArgs: ['--pace', options.pace, '--seed', options.seed, ...(options.scene ? ['--scene', options.scene] : [])],
    sessionSecret: sessionSecret(),
    port,
    exchange,
    serverEnv,
    watch: say,
  })
  let dev = null
  /** @type {import('node:child_process').ChildProcess | null} */
  let office = null
  const ended = new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, resolve)
  })
  try {
    say('starting the exchange')
    await stack.startExchange()
    const standIn = office = startNode(
      officeProgram,
      ['--port', new URL(calendars).port, '--people', options.people, '--tell', stack.url],
      { ESTAFETTE_OCCUPANCY_TOKEN: occupancyToken, ESTAFETTE_CUSTOMER_TOKEN: customerToken },
    )
    await new Promise((resolve, reject) => {
      standIn.once('message', resolve)
      standIn.once('exit', () => reject(new Stop('The office ended at once: see its message above.')))
    })
    if (options.dev) dev = startDevServer(stack, databaseUrl, port, serverEnv)
    else {
      say('starting the server')
      await stack.startServer()
      welcome(stack.url)
    }
    await ended
    say('stopping')
  }
  finally {
    if (dev) await end(dev, 'SIGTERM')
    if (office) await end(office)
    await stack.stop()
    await postgres.stop()
  }
})

/**
 * @param {import('./stack.mjs').Stack} stack
 * @param {string} databaseUrl
 * @param {number} port
 * @param {Record<string, string>} serverEnv
 */
function startDevServer(stack, databaseUrl, port, serverEnv) {
  console.log(`\nThe console will be at http://127.0.0.1:${port}; sign in as ines with the password ${demoPassword}.\n`)
  return spawn('npx', ['nuxt', 'dev', '--host', '127.0.0.1', '--port', String(port)], {
    cwd: root,
    stdio: 'inherit',
    env: {
      ...process.env,
      NUXT_DATABASE_URL: databaseUrl,
      NUXT_EXCHANGE_PORT: String(stack.exchangePort),
      NUXT_LINK_TOKEN: stack.token,
      NUXT_DEMO: 'true',
      NUXT_SESSION_COOKIE_SECURE: 'false',
      NUXT_SESSION_PASSWORD: sessionSecret(),
      ...serverEnv,
    },
  })
}

/** @param {string} url */
function welcome(url) {
  console.log(`
Estafette is at ${url}

Sign in with the password ${demoPassword} as
${demoSignIns.map(([name, role]) => `  ${name.padEnd(8)} ${role}`).join('\n')}

Ctrl-C stops everything; what was written stays.
`)
}

function readOptions() {
  try {
    return parseArgs({
      options: {
        dev: { type: 'boolean', default: false },
        fresh: { type: 'boolean', default: false },
        help: { type: 'boolean', default: false },
        pace: { type: 'string', default: 'easy' },
        seed: { type: 'string', default: '7' },
        scene: { type: 'string' },
        people: { type: 'string', default: String(demoSize) },
        port: { type: 'string', default: '3000' },
      },
    }).values
  }
  catch (error) {
    throw new Stop(`${/** @type {Error} */ (error).message}\n\n${usage}`)
  }
}
