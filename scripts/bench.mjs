import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { chain, firstConsole } from './bench-chain.mjs'
import { mouthToEar } from './bench-sound.mjs'
import { prepareDatabase } from './database.mjs'
import { buildWhenStale, installCarrier, installNpmPackages } from './packages.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './processes.mjs'
import { run, say } from './say.mjs'

/** Bytes a second that go to another process and back. */
const perSecond = 100
/** As large as a house may be, or a tenth of it, whose ratios are the same. */
const whole = process.argv.includes('--whole')
const callsADay = whole ? 200_000 : 20_000
const callsAYear = whole ? 1_000_000 : 100_000

/** npm run bench [-- --whole]: figures as a table and as JSON in .data/bench.json. */
run(async () => {
  await installNpmPackages()
  await buildWhenStale()
  const today = await bundled('bench/model.ts', '.data/bench-model.mjs')
  const { besideOthers, foretold, keystroke, searching, snapshotSize, speedKeys } = today

  say('requests and events, by telephones and live calls')
  const figures = {
    ...modelFigures(today),
    snapshot: [182, 5_000, 20_000].map(size => snapshotSize(size)),
    keystroke: [182, 2000].map(size => keystroke(size)),
    speedKeys: [speedKeys()],
    search: [182, 5_000, 50_000].map(size => searching(size)),
    searchBesideOthers: besideOthers(),
    likelyDestinations: foretold(),
    machine: {},
    /** @type {object[]} */
    console: [],
    /** @type {object[]} */
    chain: [],
    /** @type {object[]} */
    sound: [],
    /** @type {object[]} */
    carrier: [],
    /** @type {object[]} */
    day: [],
    /** @type {object[]} */
    reports: [],
  }
  await installCarrier()
  const { callsOfCarrier } = await bundled('bench/sip.ts', '.data/bench-sip.mjs', {}, 'external')
  for (const rate of [20, 100]) {
    say(`calls of a carrier, ${rate} a second`)
    figures.carrier.push(await callsOfCarrier(rate, 30))
  }
  say('the machine\'s own noise')
  figures.machine = await echo()
  const postgres = await startPostgres('bench-postgres', { fresh: true })
  try {
    for (const size of [182, 5_000, 20_000]) {
      say(`the first usable console: ${size} extensions`)
      figures.console.push(await firstConsole(postgres, size))
    }
    for (const warm of [false, true]) {
      say(`the whole chain for a minute, ${warm ? 'kept warm' : 'cold'}`)
      figures.chain.push(await chain(postgres, { size: 5_000, warm }))
    }
    for (const [calls, lost] of /** @type {const} */ ([[2, 0], [10, 0], [10, 0.05], [25, 0], [50, 0]])) {
      say(`from mouth to ear: ${calls} calls at once, ${lost * 100} % of the packets lost`)
      figures.sound.push(await mouthToEar(postgres, { calls, lost }))
    }
    say(`a day of ${callsADay} calls through journal and projections, and made again`)
    figures.day.push(await dayOf(postgres))
    say(`reports over a year of ${callsAYear} calls`)
    figures.reports = await reportsOf(postgres)
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

/** @param {{ superuserUrl: string }} postgres */
async function dayOf(postgres) {
  const url = await prepareDatabase(postgres.superuserUrl, 'bench_day')
  const { day } = await bundled('bench/day.ts', '.data/bench-day.mjs', { '~~': root }, 'external')
  return await day(url, postgres.superuserUrl.replace(/[^/]+$/, 'bench_day'), callsADay)
}

/** @param {{ superuserUrl: string }} postgres */
async function reportsOf(postgres) {
  await prepareDatabase(postgres.superuserUrl, 'bench_figures')
  const { figuresOfYear } = await bundled('bench/figures.ts', '.data/bench-figures.mjs', { '~~': root }, 'external')
  return await figuresOfYear(postgres.superuserUrl.replace(/[^/]+$/, 'bench_figures'), callsAYear)
}

/**
 * @param {string} from
 * @param {string} into
 * @param {Record<string, string>} [alias]
 * @param {'bundle' | 'external'} [packages]
 */
async function bundled(from, into, alias = {}, packages = 'bundle') {
  const { build } = await import('esbuild')
  await build({ entryPoints: [join(root, from)], outfile: join(root, into), bundle: true, platform: 'node', format: 'esm', alias, packages, logLevel: 'error' })
  return import(join(root, into))
}

/**
 * Microseconds of each request and event, and how many times the smallest a cell takes.
 * @param {import('../bench/model.ts')} model
 */
function modelFigures({ costs, rate }) {
  const cells = costs([200, 2_000, 20_000], [10, 100, 1_000])
  /** @type {Map<string, number>} */
  const least = new Map()
  for (const { what, microseconds } of cells) least.set(what, Math.min(least.get(what) ?? Infinity, microseconds))
  return {
    cost: cells.map(cell => ({ ...cell, timesLeast: Number((cell.microseconds / (least.get(cell.what) ?? 1)).toFixed(1)) })),
    eventsPerSecond: [{ telephones: 20_000, calls: 1_000, events: rate(20_000, 1_000) }],
  }
}

/** How long a byte takes to another process and back on this machine, at the pace of the chain: what no chain can be quicker than. */
async function echo() {
  const child = spawn(process.execPath, ['-e', 'process.stdin.pipe(process.stdout)'], { stdio: ['pipe', 'pipe', 'ignore'] })
  /** @type {number[]} */
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
  /** @param {number} part */
  const at = part => Number(times[Math.floor((times.length - 1) * part)]?.toFixed(1))
  return { roundTripMedianMs: at(0.5), roundTripP95Ms: at(0.95), roundTripWorstMs: at(1) }
}
