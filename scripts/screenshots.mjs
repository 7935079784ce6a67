import { mkdirSync } from 'node:fs'
import { connect } from 'node:net'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { buildWhenStale, chromium, installChromium, installNpmPackages } from './packages.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './processes.mjs'
import { run, say } from './say.mjs'
import { createStack, demoPassword } from './stack.mjs'

const morning = '2031-05-12T09:12:00Z'
const folder = join(root, 'docs/screenshots')

/** npm run screenshots: docs/screenshots again, from the demo data, with a fixed seed and an invented clock. */
run(async () => {
  installNpmPackages()
  installChromium()
  await buildWhenStale()
  mkdirSync(folder, { recursive: true })
  const postgres = await startPostgres('screenshots-postgres', { fresh: true })
  const stack = createStack({ databaseUrl: postgres.database('screenshots'), exchangeArgs: ['--pace', 'rush', '--seed', '12', '--clock', morning], output: 'ignore' })
  const { chromium: launcher } = await import('@playwright/test')
  const browser = await launcher.launch({ executablePath: chromium(), args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })
  try {
    await stack.start()
    await shoot(stack, browser)
  }
  finally {
    await browser.close()
    await stack.stop()
    await postgres.stop()
  }
})

async function shoot(stack, browser) {
  const advance = await clockOf(stack)
  const context = await browser.newContext({ baseURL: stack.url, viewport: { width: 1280, height: 800 }, timezoneId: 'UTC', reducedMotion: 'reduce' })
  const page = await context.newPage()
  const shot = async (name) => {
    await page.evaluate(() => document.fonts.ready)
    await page.screenshot({ path: join(folder, `${name}.png`) })
    say(`docs/screenshots/${name}.png`)
  }
  const answer = async () => {
    const { length } = await page.locator('.in-hand .ribbon').all()
    await page.keyboard.press('Enter')
    await page.locator('.in-hand .ribbon').nth(length).waitFor()
  }

  await page.goto('/sign-in')
  await page.getByLabel('Sign-in name').fill('ines')
  await page.getByLabel('Password').fill(demoPassword)
  await shot('sign-in')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.locator('.window').first().waitFor()

  await advance(17)
  await page.locator('.arriving .ribbon').first().waitFor()
  await answer()
  await advance(4)
  await page.locator('.in-hand .caption').first().waitFor()
  await shot('console')
  await page.keyboard.type('lost prop')
  await page.getByRole('option').first().waitFor()
  await shot('answers')
  await page.keyboard.press('Enter')
  await page.locator('.passed-on .ribbon').first().waitFor()
  await answer()
  await advance(4)
  await answer()
  await advance(9)
  await shot('crowded')
  await page.getByRole('button', { name: 'Dark theme' }).click()
  await page.locator('html.dark').waitFor()
  await shot('console-dark')
  await page.getByRole('button', { name: 'Light theme' }).click()
  await page.setViewportSize({ width: 380, height: 800 })
  await shot('strip')
  await page.setViewportSize({ width: 1280, height: 800 })
  await advance(120)
  await page.getByRole('link', { name: 'Call log' }).click()
  await page.getByRole('button', { name: /^Story of/ }).first().waitFor()
  const told = page.getByRole('row').filter({ hasText: 'Ines Quillfeather, then' }).first()
  if (await told.count()) await told.getByRole('button').click()
  await shot('log')
}

/** Moves the exchange's invented clock on by seconds, one at a time, as a morning would pass. */
async function clockOf(stack) {
  const socket = connect(stack.exchangePort, '127.0.0.1')
  const waiting = []
  createInterface({ input: socket }).on('line', (line) => {
    if (JSON.parse(line).type === 'pong') waiting.shift()?.()
  })
  socket.write(`${JSON.stringify({ type: 'hello', version: 1, token: stack.token })}\n`)
  return async (seconds) => {
    for (let i = 0; i < seconds; i++) {
      await new Promise((resolve) => {
        waiting.push(resolve)
        socket.write(`${JSON.stringify({ type: 'advance', by: 1_000 })}\n`)
      })
    }
  }
}
