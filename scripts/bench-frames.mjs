import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { talkTo } from './link.mjs'
import { buildWhenStale, chromium, installChromium, installNpmPackages } from './packages.mjs'
import { prepareDatabase } from './database.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './processes.mjs'
import { run, say } from './say.mjs'
import { createStack, demoPassword } from './stack.mjs'

const people = 5_000
const changesASecond = 50
const seconds = 10

/** npm run bench:frames: how fluid the floor of a large company is in the browser while it changes, at rest and while it scrolls. */
run(async () => {
  await installNpmPackages()
  await installChromium()
  await buildWhenStale()
  const postgres = await startPostgres('frames-postgres', { fresh: true })
  const databaseUrl = await prepareDatabase(postgres.superuserUrl, 'frames', { people })
  const stack = createStack({ databaseUrl, exchangeArgs: ['--pace', 'still'], output: 'ignore' })
  const { chromium: launcher } = await import('@playwright/test')
  const browser = await launcher.launch({ executablePath: chromium(), args: ['--no-sandbox', '--disable-gpu'] })
  try {
    await stack.start()
    const page = await (await browser.newContext({ baseURL: stack.url, viewport: { width: 1280, height: 800 } })).newPage()
    await page.goto('/sign-in')
    await page.getByLabel('Sign-in name').fill('ines')
    await page.getByLabel('Password').fill(demoPassword)
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.locator('.window').first().waitFor()
    const { ask } = await talkTo(stack)
    say(`${people} extensions, ${await page.locator('.window').count()} windows drawn`)
    const rows = []
    for (const [changing, scrolling] of [[false, false], [true, false], [false, true], [true, true]]) {
      const changes = changing ? change(ask) : null
      const frames = await page.evaluate(framesFor, { seconds, scrolling: Boolean(scrolling) })
      const asked = await changes?.end()
      const changed = changing ? `${Math.round((asked ?? 0) / seconds)} a second` : 'none'
      rows.push({ changes: changed, scrolls: scrolling ? '40 px a frame' : 'no', ...summary(frames) })
    }
    console.table(rows)
    mkdirSync(join(root, '.data'), { recursive: true })
    writeFileSync(join(root, '.data/bench-frames.json'), JSON.stringify(rows, null, 2))
  }
  finally {
    await browser.close()
    await stack.stop()
    await postgres.stop()
  }
})

/**
 * Colleagues say that they are not to be disturbed, and may be disturbed again, one after the other.
 * @param {(request: object) => Promise<unknown>} ask
 */
function change(ask) {
  let asked = 0
  const pulse = setInterval(() => {
    const device = `t${2_103 + (asked * 7) % (people - 10)}`
    void ask({ service: 'setDoNotDisturb', device, on: Math.floor(asked * 7 / (people - 10)) % 2 === 0 })
    asked++
  }, 1_000 / changesASecond)
  return {
    async end() {
      clearInterval(pulse)
      return asked
    },
  }
}

/**
 * In the browser: how long each frame lasted, in milliseconds.
 * @param {{ seconds: number, scrolling: boolean }} options
 * @returns {Promise<number[]>}
 */
function framesFor({ seconds, scrolling }) {
  const floor = /** @type {HTMLElement} */ (document.querySelector('.floor'))
  floor.scrollTop = 0
  return new Promise((resolve) => {
    /** @type {number[]} */
    const frames = []
    const begin = performance.now()
    let last = begin
    let by = 40
    const frame = (/** @type {number} */ now) => {
      frames.push(now - last)
      last = now
      if (scrolling) {
        if (floor.scrollTop + floor.clientHeight >= floor.scrollHeight - 1) by = -40
        if (floor.scrollTop <= 0) by = 40
        floor.scrollTop += by
      }
      if (now - begin < seconds * 1_000) requestAnimationFrame(frame)
      else resolve(frames.slice(1))
    }
    requestAnimationFrame(frame)
  })
}

/** @param {number[]} frames */
function summary(frames) {
  const sorted = [...frames].sort((a, b) => a - b)
  const at = (/** @type {number} */ share) => Math.round((sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0) * 10) / 10
  return { 'frames': frames.length, 'median ms': at(0.5), '95th ms': at(0.95), '99th ms': at(0.99), 'worst ms': at(1) }
}
