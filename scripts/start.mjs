import { randomBytes } from 'node:crypto'
import { setPriority } from 'node:os'
import { join } from 'node:path'
import { spawn } from 'node:child_process'
import { parseArgs } from 'node:util'
import { asClock, demoClock } from './demo-clock.mjs'
import { prepareDatabase } from './database.mjs'
import { isEnding, toldToEnd, whenEnding } from './ending.mjs'
import { takeFolder } from './folder.mjs'
import { buildCommands, buildExchange, buildSound, buildWhenStale, installNpmPackages, installRecogniser, installVoices, officeProgram } from './packages.mjs'
import { startPostgres } from './postgres.mjs'
import { anyPort, firstWord, isFree, root, startNode } from './processes.mjs'
import { run, say, Stop } from './say.mjs'
import { sessionSecret } from './secrets.mjs'
import { createStack, demoPassword, demoSignIns } from './stack.mjs'

const historyDays = 180
const demoSize = 182
const largestCompany = 20_000
/** Where the console is served, and the office's calendars, if they are free. */
const usualPort = 3000
const officePort = 3001
const usualSipPort = 5060
/** An operator, and two colleagues. */
const demoTelephones = ['t2100', 't2150', 't2105']
const lowest = 19
const usage = `npm start -- [--fresh] [--pace quiet|easy|brisk|rush|still] [--seed N] [--scene busy|cancelled] [--people N] [--port N] [--clock now]
             [--silent] [--names] [--telephones]

  --fresh   begins the demo anew: all figures are thrown away
  --pace    how busy it is: a caller about every 60, 25, 12 or 5 seconds, or nobody at all
  --seed    other callers, other colleagues (the same seed gives the same ones)
  --scene   busy: begins in the middle of a crowded minute; cancelled: when a sailing has just been cancelled; each waits until somebody signs in
  --people  a company of another size, up to 20000 people; each size keeps figures of its own
  --port    where the console is served; otherwise ${usualPort}, or any port if that is taken
  --clock   now: the demo lives by the clock of this machine, by night too, and keeps figures of its own; otherwise it begins in a working day
  --silent  without sound: what is said is read
  --names   operators can say a name instead of typing it (Debian's pocketsphinx; 50 MB are fetched once)
  --telephones  also serves telephones of the network (SIP) on this machine, with three accounts for trying (docs/telephones.md)`

run(async () => {
  const options = readOptions()
  if (options.help) return console.log(usage)
  takeFolder()
  const people = whole('people', options.people, 1, largestCompany)
  const wanted = options.port === undefined ? null : whole('port', options.port, 0, 65_535)
  if (wanted && !await isFree(wanted)) throw new Stop(`Port ${wanted} is taken by another program: end that one, or choose another port with --port.`)
  await installNpmPackages()
  if (!options.silent) await installVoices()
  if (options.names) await installRecogniser()
  let exchange
  let sound = join(root, '.output/sound/main.mjs')
  if (options.dev) {
    sound = await buildSound(join(root, '.data/dev-sound'))
    exchange = await buildExchange(join(root, '.data/dev-exchange.mjs'))
    await buildExchange(officeProgram, 'demo/office.ts')
    await buildCommands()
  }
  else await buildWhenStale()

  say('starting PostgreSQL')
  const postgres = await startPostgres('postgres', { fresh: options.fresh })
  const name = ['estafette', ...(people === demoSize ? [] : [people]), ...(options.clock === 'now' ? ['now'] : [])].join('_')
  const ahead = options.clock === 'now' ? 0 : demoClock(name, options.fresh)
  process.env.ESTAFETTE_DEMO_CLOCK_OFFSET = String(ahead)

  const [occupancyToken, customerToken] = [randomBytes(24).toString('hex'), randomBytes(24).toString('hex')]
  const office = startNode(
    officeProgram, ['--port', String(officePort), '--people', options.people],
    { ESTAFETTE_OCCUPANCY_TOKEN: occupancyToken, ESTAFETTE_CUSTOMER_TOKEN: customerToken },
  )
  const calendars = `http://127.0.0.1:${(await firstWord(office, 'The office ended at once: see its message above.')).port}`
  const serverEnv = {
    NUXT_CALENDAR_ORIGINS: calendars, NUXT_OCCUPANCY_TOKEN: occupancyToken, NUXT_CUSTOMER_ADDRESS: `${calendars}/customers`,
    NUXT_CUSTOMER_NAME: 'Merrowby orders', NUXT_CUSTOMER_TOKEN: customerToken, NUXT_RECOGNISER: options.names ? 'pocketsphinx' : '',
  }
  say('putting the demo into the database')
  const databaseUrl = await prepareDatabase(postgres.superuserUrl, name, { people, history: historyDays, behind: true, calendars })
  const stack = createStack({
    databaseUrl,
    exchangeArgs: ['--pace', options.pace, '--seed', options.seed, ...(options.scene ? ['--scene', options.scene] : [])],
    sessionSecret: sessionSecret(),
    // The port that people know is worth a try; whoever names one means it.
    port: wanted ?? (await isFree(usualPort) ? usualPort : 0),
    exchange,
    sound: options.silent ? null : sound,
    sip: options.telephones ? `127.0.0.1:${await isFree(usualSipPort) ? usualSipPort : await anyPort()}` : null,
    serverEnv,
    watch: say,
  })
  say('starting the exchange')
  await stack.startExchange()
  await stack.startSound()
  if (options.dev) startDevServer(stack, databaseUrl, wanted ?? usualPort, serverEnv)
  else {
    say('starting the server')
    await stack.startServer()
    office.send({ console: stack.url })
    welcome(stack.url, ahead)
    if (options.telephones) await giveTelephones(stack.url)
    remember(databaseUrl)
  }
  await toldToEnd()
})

/**
 * The made-up months before come while the console is in use already, with whatever the machine can spare.
 * @param {string} databaseUrl
 */
function remember(databaseUrl) {
  const { pid } = startNode(join(root, '.output/commands/history.mjs'), [], { NUXT_DATABASE_URL: databaseUrl }, {
    onExit: code => code === 0 || isEnding() || say('the history of the demo stopped half-way: it goes on with the next start'),
  })
  if (pid) setPriority(pid, lowest)
}

/**
 * @param {import('./stack.mjs').Stack} stack
 * @param {string} databaseUrl
 * @param {number} port
 * @param {Record<string, string>} serverEnv
 */
function startDevServer(stack, databaseUrl, port, serverEnv) {
  console.log(`\nThe console will be at http://127.0.0.1:${port}; sign in as ines with the password ${demoPassword}.\n`)
  const dev = spawn('npx', ['nuxt', 'dev', '--host', '127.0.0.1', '--port', String(port)], {
    cwd: root,
    stdio: 'inherit',
    env: {
      ...process.env,
      NUXT_DATABASE_URL: databaseUrl,
      NUXT_EXCHANGE_PORT: String(stack.exchangePort),
      NUXT_LINK_TOKEN: stack.token,
      ...stack.soundPort && { NUXT_SOUND_PORT: String(stack.soundPort) },
      NUXT_DEMO: 'true',
      NUXT_SESSION_COOKIE_SECURE: 'false',
      NUXT_SESSION_PASSWORD: sessionSecret(),
      ...serverEnv,
    },
  })
  whenEnding(() => dev.kill())
}

/**
 * @param {string} url
 * @param {number} ahead
 */
function welcome(url, ahead) {
  console.log(`
Estafette is at ${url}

Sign in with the password ${demoPassword} as
${demoSignIns.map(([name, role]) => `  ${name.padEnd(8)} ${role}`).join('\n')}
${ahead > 0 ? `\nAt Merrowby Ferries it is ${asClock(Date.now() + ahead)}: the demo begins in a working day (--clock now: by this machine's clock).\n` : ''}
Ctrl-C stops everything; what was written stays.
`)
}

/**
 * Accounts with which a soft client can be tried, made as an administrator makes them.
 * @param {string} url
 */
async function giveTelephones(url) {
  const headers = { 'content-type': 'application/json', 'origin': url }
  const session = await fetch(`${url}/api/session`, { method: 'POST', headers, body: JSON.stringify({ signIn: 'admin', password: demoPassword }) })
  const cookie = session.headers.getSetCookie().map(one => one.split(';')[0]).join('; ')
  const accounts = await Promise.all(demoTelephones.map(async (device) => {
    const answer = await fetch(`${url}/api/telephones/${device}/account`, { method: 'POST', headers: { ...headers, cookie }, body: '{}' })
    if (!answer.ok) throw new Stop(`The telephones could not be given their accounts: ${await answer.text()}`)
    return /** @type {{ address: string, name: string, secret: string }} */ (await answer.json())
  }))
  await fetch(`${url}/api/session`, { method: 'DELETE', headers: { ...headers, cookie } })
  console.log(`Telephones register at ${accounts[0]?.address} (SIP), for example with these names and secrets:
${accounts.map(({ name, secret }) => `  ${name.padEnd(8)} ${secret}`).join('\n')}
How a soft client is tried stands in docs/telephones.md.
`)
}

/**
 * @param {string} name
 * @param {string} text
 * @param {number} least
 * @param {number} most
 */
function whole(name, text, least, most) {
  const value = Number(text)
  if (!/^\d+$/.test(text) || value < least || value > most) throw new Stop(`--${name} is a whole number from ${least} to ${most}.\n\n${usage}`)
  return value
}

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        clock: { type: 'string' },
        dev: { type: 'boolean', default: false },
        fresh: { type: 'boolean', default: false },
        help: { type: 'boolean', default: false },
        pace: { type: 'string', default: 'easy' },
        seed: { type: 'string', default: '7' },
        names: { type: 'boolean', default: false },
        scene: { type: 'string' },
        silent: { type: 'boolean', default: false },
        telephones: { type: 'boolean', default: false },
        people: { type: 'string', default: String(demoSize) },
        port: { type: 'string' },
      },
    })
    if (values.silent && values.telephones) throw new Error('--telephones needs sound: leave --silent away.')
    if (values.clock !== undefined && values.clock !== 'now') throw new Error('--clock knows one word: now.')
    return values
  }
  catch (error) {
    throw new Stop(`${/** @type {Error} */ (error).message}\n\n${usage}`)
  }
}
