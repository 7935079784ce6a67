import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { talkTo } from './link.mjs'
import { buildWhenStale, installNpmPackages } from './packages.mjs'
import { firstValue, prepareDatabase } from './database.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './processes.mjs'
import { run, say } from './say.mjs'
import { createStack, demoPassword } from './stack.mjs'

const consoles = 20
const perSecond = 100
const seconds = 15
/** The last commit whose state was copied whole. */
const earlierCommit = 'ee86217ec804b0b6038a242de6b4603c85938b4a'

/** npm run bench: figures as a table and as JSON in .data/bench.json. */
run(async () => {
  installNpmPackages()
  await buildWhenStale()
  const today = await bundled('bench/model.ts', '.data/bench-model.mjs')
  const { keystroke, snapshotSize } = today

  say('requests and events, by telephones and live calls')
  const figures = {
    ...modelFigures(today, await earlierModel()),
    snapshot: [182, 5_000, 20_000].map(size => snapshotSize(size)),
    keystroke: [182, 2000].map(size => keystroke(size)),
    consoleScript: consoleSize(),
    machine: {},
    chain: [],
  }
  say('the machine\'s own noise')
  figures.machine = await echo()
  const postgres = await startPostgres('bench-postgres', { fresh: true })
  try {
    for (const size of [182, 2000]) {
      say(`the whole chain: ${size} extensions, ${consoles} consoles, ${perSecond} events a second for ${seconds} s`)
      figures.chain.push(await chain(postgres, size))
    }
  }
  finally {
    await postgres.stop()
  }
  for (const [name, figure] of Object.entries(figures)) {
    console.log(`\n${name}`)
    console.table(figure)
  }
  mkdirSync(join(root, '.data'), { recursive: true })
  writeFileSync(join(root, '.data/bench.json'), JSON.stringify(figures, null, 2))
})

async function bundled(from, into, alias = {}) {
  const { build } = await import('esbuild')
  await build({ entryPoints: [join(root, from)], outfile: join(root, into), bundle: true, platform: 'node', format: 'esm', alias, logLevel: 'error' })
  return import(join(root, into))
}

/** The call model of the commit before the state had parts, when the history has it: figures stand beside those of today. */
async function earlierModel() {
  const folder = join(root, '.data/earlier')
  mkdirSync(folder, { recursive: true })
  const archive = spawnSync('git', ['archive', earlierCommit, 'core'], { cwd: root, maxBuffer: 64 * 1024 * 1024 })
  if (archive.status !== 0) return null
  spawnSync('tar', ['-x', '-C', folder], { input: archive.stdout })
  return bundled('bench/earlier.mjs', '.data/bench-earlier.mjs', { earlier: folder })
}

/** Microseconds of each request and event, today's beside the earlier ones, and how many times the smallest a cell takes. */
function modelFigures(today, earlier) {
  const sizes = [200, 2_000, 20_000]
  const live = [10, 100, 1_000]
  const now = today.costs(today.model, sizes, live)
  const before = earlier?.costs(earlier.model, sizes, live) ?? []
  const least = new Map()
  for (const { what, microseconds } of now) least.set(what, Math.min(least.get(what) ?? Infinity, microseconds))
  return {
    cost: now.map((cell, index) => ({ ...cell, timesLeast: Number((cell.microseconds / least.get(cell.what)).toFixed(1)), earlier: before[index]?.microseconds })),
    eventsPerSecond: [{ telephones: 20_000, calls: 1_000, today: today.rate(today.model, 20_000, 1_000), earlier: earlier?.rate(earlier.model, 20_000, 1_000) }],
  }
}

/** How long a byte takes to another process and back on this machine, at the pace of the chain: what no chain can be quicker than. */
async function echo() {
  const child = spawn(process.execPath, ['-e', 'process.stdin.pipe(process.stdout)'], { stdio: ['pipe', 'pipe', 'ignore'] })
  const times = []
  for (let i = 0; i < perSecond * 5; i++) {
    const begin = performance.now()
    const back = once(child.stdout, 'data')
    child.stdin.write('x')
    await back
    times.push(performance.now() - begin)
    await new Promise(resolve => setTimeout(resolve, 1000 / perSecond))
  }
  child.stdin.end()
  times.sort((a, b) => a - b)
  const at = part => Number(times[Math.floor((times.length - 1) * part)].toFixed(1))
  return { roundTripMedianMs: at(0.5), roundTripP95Ms: at(0.95), roundTripWorstMs: at(1) }
}

/** What the console loads before it can be used, compressed as a server in front would. */
function consoleSize() {
  const folder = join(root, '.output/public/_nuxt')
  const sum = ending => readdirSync(folder).filter(name => name.endsWith(ending)).reduce((total, name) => total + gzipSync(readFileSync(join(folder, name))).length, 0)
  return { scriptKb: Math.round(sum('.js') / 1024), styleKb: Math.round(sum('.css') / 1024) }
}

async function chain(postgres, size) {
  const stack = createStack({ databaseUrl: await prepareDatabase(postgres.superuserUrl, `bench_${size}`, { people: size }), exchangeArgs: ['--pace', 'still'], output: 'ignore' })
  await stack.start()
  const cookie = await signIn(stack.url)
  const delays = []
  const { default: WebSocket } = await import('ws')
  const sockets = await Promise.all(Array.from({ length: consoles }, async () => {
    const socket = new WebSocket(`${stack.url.replace('http', 'ws')}/api/feed`, { headers: { cookie } })
    await once(socket, 'open')
    const first = once(socket, 'message')
    socket.send(JSON.stringify({ type: 'hello' }))
    await first
    socket.on('message', (text) => {
      const message = JSON.parse(text)
      if (message.type !== 'events') return
      for (const event of message.events) delays.push(Date.now() - event.at)
    })
    return socket
  }))
  // A server that has just started is slower: what counts is a working day.
  await play(stack, size, { requests: 200 })
  delays.length = 0
  const events = await play(stack, size)
  await new Promise(resolve => setTimeout(resolve, 500))
  const health = await (await fetch(`${stack.url}/api/health`)).json()
  const written = Number(await firstValue(postgres.superuserUrl, `bench_${size}`, 'select count(*) from journal'))
  const memory = { exchangeMb: residentMb(stack.exchange.pid), serverMb: residentMb(stack.server.pid) }
  const rate = await burst(stack, size, postgres)
  for (const socket of sockets) socket.close()
  await stack.stop()
  delays.sort((a, b) => a - b)
  const at = part => delays[Math.min(delays.length - 1, Math.floor(delays.length * part))]
  return { size, consoles, events, medianMs: at(0.5), p95Ms: at(0.95), worstMs: at(1), journalWritten: written, behind: health.database.journalBehind, ...memory, ...rate }
}

/** As many events as the chain can carry: requests sent without waiting, timed until the last row is written. */
async function burst(stack, size, postgres) {
  const before = Number(await firstValue(postgres.superuserUrl, `bench_${size}`, 'select count(*) from journal'))
  const begin = Date.now()
  const last = await play(stack, size, { everyMs: 0, requests: 4_000 })
  const carried = Date.now()
  for (;;) {
    const { lastEvent, database } = await (await fetch(`${stack.url}/api/health`)).json()
    if (lastEvent >= before + last && database.journalBehind === 0) break
    await new Promise(resolve => setTimeout(resolve, 50))
  }
  const rows = Number(await firstValue(postgres.superuserUrl, `bench_${size}`, 'select count(*) from journal')) - before
  return { burstEventsPerSecond: Math.round(last / ((carried - begin) / 1000)), journalRowsPerSecond: Math.round(rows / ((Date.now() - begin) / 1000)) }
}

async function signIn(url) {
  const answer = await fetch(`${url}/api/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ signIn: 'ines', password: demoPassword }) })
  return answer.headers.getSetCookie().map(cookie => cookie.split(';')[0]).join('; ')
}

function residentMb(pid) {
  return Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024)
}

/** Makes calls, answers and ends them at the exchange; gives the number of events that came of it. */
async function play(stack, size, { everyMs = 1000 / (perSecond / 2.5), requests = perSecond / 2.5 * seconds } = {}) {
  let events = 0
  const { ask, close } = await talkTo(stack, () => { events++ })
  const begin = Date.now()
  const pending = []
  for (let i = 0; i < requests; i++) {
    const from = `t${2110 + (i * 2) % (size - 20)}`
    const to = `t${2110 + (i * 2 + 1) % (size - 20)}`
    const one = ask({ service: 'makeCall', device: from, number: to }).then(async ({ call }) => {
      if (!call) return
      await ask({ service: 'answerCall', device: to, call })
      await ask({ service: 'clearConnection', device: from, call })
    })
    pending.push(one)
    // In steps of the rate wanted; in a burst only as many under way as there are telephones.
    if (everyMs > 0) {
      const wait = begin + (i + 1) * everyMs * 2 - Date.now()
      if (wait > 0) await new Promise(resolve => setTimeout(resolve, wait))
    }
    else if (pending.length % Math.min(60, size / 4 | 0) === 0) await Promise.all(pending.splice(0))
  }
  await Promise.all(pending)
  close()
  return events
}
