import { once } from 'node:events'
import { readFileSync } from 'node:fs'
import { firstValue, prepareDatabase } from './database.mjs'
import { talkTo } from './link.mjs'
import { bytesUntilSeen, seenFrom } from './first-load.mjs'
import { Stop } from './say.mjs'
import { createStack, demoPassword } from './stack.mjs'

/** The whole chain under load: exchange, server, database, and browsers that listen. */

const consoles = 100
const perSecond = 500
const seconds = 60
/** So many consoles share a session: more that begin at once are let go as one who asks too much. */
const consolesASession = 20
/** Every so manieth console is read; the others only count what comes: it is the server that is measured, not this process. */
const readEvery = 10
/** A timer that keeps a process warm: an idle virtual machine puts its processors to sleep, and waking takes longer than the work. */
const keepWarm = `--import=data:text/javascript,${encodeURIComponent('setInterval(() => {}, 1)')}`
const ticksPerSecond = 100
/** A console that takes longer than this (milliseconds) is not waited for. */
const longestFirst = 120_000

/**
 * Delay from event to console, processor share (1: one processor) and memory of each process.
 * @param {{ superuserUrl: string }} postgres
 * @param {{ size: number, warm: boolean }} options
 */
export async function chain(postgres, { size, warm }) {
  const database = `bench_${size}_${warm ? 'warm' : 'cold'}`
  const stack = createStack({
    databaseUrl: await prepareDatabase(postgres.superuserUrl, database, { people: size }),
    exchangeArgs: ['--pace', 'still'],
    output: 'ignore',
  })
  const { NODE_OPTIONS } = process.env
  if (warm) process.env.NODE_OPTIONS = keepWarm
  await stack.start()
  if (NODE_OPTIONS === undefined) delete process.env.NODE_OPTIONS
  const own = warm ? setInterval(() => {}, 1) : undefined
  /** @type {number[]} */
  const delays = []
  const sockets = await listeners(stack.url, event => delays.push(Date.now() - event.at))
  // A server that has just started is slower: what counts is a working day.
  await play(stack, size, { requests: 400 })
  delays.length = 0
  const used = [processor(stack.exchange?.pid), processor(stack.server?.pid), processor(process.pid)]
  const begin = performance.now()
  const events = await play(stack, size)
  const elapsed = (performance.now() - begin) / 1_000
  const share = [stack.exchange?.pid, stack.server?.pid, process.pid].map((pid, index) => Number(((processor(pid) - (used[index] ?? 0)) / elapsed).toFixed(2)))
  await new Promise(resolve => setTimeout(resolve, 500))
  const health = await (await fetch(`${stack.url}/api/ready`)).json()
  const memory = { exchangeMb: residentMb(stack.exchange?.pid), serverMb: residentMb(stack.server?.pid) }
  delays.sort((a, b) => a - b)
  /** @param {number} part */
  const at = part => delays[Math.min(delays.length - 1, Math.floor(delays.length * part))]
  const figures = {
    size, warm, consoles, eventsPerSecond: Math.round(events / elapsed),
    medianMs: at(0.5), p95Ms: at(0.95), p99Ms: at(0.99), worstMs: at(1),
    exchangeShare: share[0], serverShare: share[1], benchShare: share[2], ...memory,
    behind: health.database.journalBehind, ...await burst(stack, size, postgres.superuserUrl, database),
  }
  for (const socket of sockets) socket.close()
  await stack.stop()
  clearInterval(own)
  return figures
}

/**
 * How long a browser takes from asking for the console until everybody stands in it, and what it has asked for until then: script and style as they travel.
 * @param {{ superuserUrl: string }} postgres
 * @param {number} size
 */
export async function firstConsole(postgres, size) {
  const { chromium } = await import('@playwright/test')
  const { chromium: executable } = await import('./packages.mjs')
  const stack = createStack({
    databaseUrl: await prepareDatabase(postgres.superuserUrl, `bench_console_${size}`, { people: size }),
    exchangeArgs: ['--pace', 'still'],
    output: 'ignore',
  })
  await stack.start()
  const browser = await chromium.launch({ executablePath: executable(), args: ['--no-sandbox', '--disable-gpu'] })
  try {
    const context = await browser.newContext({ baseURL: stack.url, viewport: { width: 1280, height: 800 } })
    await context.request.post('/api/session', { data: { signIn: 'ines', password: demoPassword } })
    const page = await context.newPage()
    await page.addInitScript(seenFrom, '.window')
    const begin = performance.now()
    await page.goto('/')
    const usable = await page.locator('.window').first().waitFor({ timeout: longestFirst }).then(() => true, () => false)
    const firstUsableMs = usable ? Math.round(performance.now() - begin) : null
    const [scriptKb, styleKb] = await Promise.all(['.js', '.css'].map(async kind => Math.round(await page.evaluate(bytesUntilSeen, kind) / 1024)))
    return { size, firstUsableMs, scriptKb, styleKb }
  }
  finally {
    await browser.close()
    await stack.stop()
  }
}

/**
 * Browsers that listen, as far as the server can tell.
 * @param {string} url
 * @param {(event: import('./link.mjs').LinkEvent) => void} onEvent
 */
async function listeners(url, onEvent) {
  /** @type {string[]} */
  const cookies = []
  for (let session = 0; session * consolesASession < consoles; session++) cookies.push(await signIn(url))
  const { default: WebSocket } = await import('ws')
  return await Promise.all(Array.from({ length: consoles }, async (_, index) => {
    const socket = new WebSocket(`${url.replace('http', 'ws')}/api/feed`, { headers: { cookie: cookies[index % cookies.length] } })
    await once(socket, 'open')
    const letGo = once(socket, 'close').then(([code, why]) => {
      throw new Stop(`A console was let go: ${code} ${why}`)
    })
    const first = Promise.race([once(socket, 'message'), letGo])
    socket.send(JSON.stringify({ type: 'hello', version: 4 }))
    await first
    const alive = setInterval(() => socket.send('{"type":"here"}'), 2_000)
    socket.on('close', () => clearInterval(alive))
    socket.on('message', (text) => {
      if (index % readEvery !== 0) return
      const message = JSON.parse(String(text))
      if (message.type === 'events') for (const event of message.events) onEvent(event)
    })
    return socket
  }))
}

/** @param {string} url */
async function signIn(url) {
  const answer = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ signIn: 'ines', password: demoPassword }),
  })
  return answer.headers.getSetCookie().map(cookie => cookie.split(';')[0]).join('; ')
}

/**
 * Seconds of processor that a process has used (utime and stime of proc(5)).
 * @param {number | undefined} pid
 */
export function processor(pid) {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? []
  return (Number(fields[11]) + Number(fields[12])) / ticksPerSecond
}

/**
 * Megabytes of memory that a process has.
 * @param {number | undefined} pid
 */
export function residentMb(pid) {
  return Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024)
}

/**
 * As many events as the chain can carry: requests sent without waiting, timed until the last row is written.
 * @param {import('./stack.mjs').Stack} stack
 * @param {number} size
 * @param {string} superuserUrl
 * @param {string} database
 */
async function burst(stack, size, superuserUrl, database) {
  const rowsNow = async () => Number(await firstValue(superuserUrl, database, 'select count(*) from journal'))
  const before = await rowsNow()
  const begin = Date.now()
  const last = await play(stack, size, { everyMs: 0, requests: 4_000 })
  const carried = Date.now()
  while (await rowsNow() < before + last) await new Promise(resolve => setTimeout(resolve, 50))
  return { burstEventsPerSecond: Math.round(last / ((carried - begin) / 1000)), journalRowsPerSecond: Math.round(last / ((Date.now() - begin) / 1000)) }
}

/**
 * Makes calls, answers and ends them at the exchange; gives the number of events that came of it: some five a call.
 * @param {import('./stack.mjs').Stack} stack
 * @param {number} size
 * @param {{ everyMs?: number, requests?: number }} [pace]
 */
async function play(stack, size, { everyMs = 5_000 / perSecond, requests = perSecond / 5 * seconds } = {}) {
  let events = 0
  const { ask, close } = await talkTo(stack, () => { events++ })
  const begin = Date.now()
  /** @type {Promise<unknown>[]} */
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
      const wait = begin + (i + 1) * everyMs - Date.now()
      if (wait > 0) await new Promise(resolve => setTimeout(resolve, wait))
    }
    else if (pending.length % Math.min(60, size / 4 | 0) === 0) await Promise.all(pending.splice(0))
  }
  await Promise.all(pending)
  close()
  return events
}
