import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { buildWhenStale, chromium, installChromium, installNpmPackages } from './packages.mjs'
import { talkTo } from './link.mjs'
import { prepareDatabase } from './database.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './processes.mjs'
import { run, say } from './say.mjs'
import { createStack, demoPassword } from './stack.mjs'

/**
 * @typedef {object} Stage what a picture is taken of, and with
 * @property {import('@playwright/test').Page} page
 * @property {import('@playwright/test').BrowserContext} context
 * @property {import('@playwright/test').Browser} browser
 * @property {string} url
 * @property {(seconds: number) => Promise<void>} advance
 * @property {(request: object) => Promise<unknown>} ask asks the exchange, as somebody else would
 * @property {() => Promise<unknown>} answerOutside
 * @property {(name: string) => Promise<void>} queued somebody waits for freight
 * @property {(name: string, of?: import('@playwright/test').Page) => Promise<void>} shot
 */

const morning = '2031-05-12T09:12:00Z'
const folder = join(root, 'docs/screenshots')

/** npm run screenshots: docs/screenshots again, from the demo data, with a fixed seed and an invented clock. */
run(async () => {
  await installNpmPackages()
  await installChromium()
  await buildWhenStale()
  mkdirSync(folder, { recursive: true })
  const postgres = await startPostgres('screenshots-postgres', { fresh: true })
  const { chromium: launcher } = await import('@playwright/test')
  const browser = await launcher.launch({
    executablePath: chromium(),
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
  })
  try {
    await onStage(postgres, browser, 'morning', ['--pace', 'rush'], shootMorning)
    await onStage(postgres, browser, 'busy', ['--pace', 'quiet', '--scene', 'busy'], shootBusy)
    await onStage(postgres, browser, 'cancelled', ['--pace', 'quiet', '--scene', 'cancelled'], shootCancelled)
  }
  finally {
    await browser.close()
    await postgres.stop()
  }
})

/**
 * One stage with an invented clock, and a signed-in console on it.
 * @param {{ superuserUrl: string }} postgres
 * @param {import('@playwright/test').Browser} browser
 * @param {string} database
 * @param {string[]} exchangeArgs
 * @param {(stage: Stage) => Promise<void>} shoot
 */
async function onStage(postgres, browser, database, exchangeArgs, shoot) {
  const stack = createStack({
    databaseUrl: await prepareDatabase(postgres.superuserUrl, database, { history: 28, until: morning }),
    exchangeArgs: ['--seed', '12', '--clock', morning, ...exchangeArgs],
    output: 'ignore',
  })
  await stack.start()
  try {
    const context = await browser.newContext({ baseURL: stack.url, viewport: { width: 1280, height: 800 }, timezoneId: 'UTC', reducedMotion: 'reduce' })
    const page = await context.newPage()
    /** @type {object} */
    let rung = {}
    const { advance, ask } = await talkTo(stack, (event) => {
      if (event.type === 'delivered' && event.party) rung = { service: 'answerCall', device: event.device, call: event.call }
    })
    /** Whoever was last rung outside answers. */
    const answerOutside = () => ask(rung)
    const queued = async (/** @type {string} */ name) => {
      const party = { name, number: '+447700900311' }
      const { call } = await ask({ service: 'offerCall', trunk: 'east', party, number: '+441632960000' })
      await ask({ service: 'answerCall', device: 't2102', call })
      await ask({ service: 'singleStepTransferCall', device: 't2102', call, to: 'queue:freight' })
    }
    /**
     * @param {string} name
     * @param {import('@playwright/test').Page} [of]
     */
    const shot = async (name, of = page) => {
      await of.evaluate(() => document.fonts.ready)
      await of.mouse.move(0, 0)
      await of.screenshot({ path: join(folder, `${name}.png`) })
      say(`docs/screenshots/${name}.png`)
    }
    await page.goto('/sign-in')
    await page.getByLabel('Sign-in name').fill('ines')
    await page.getByLabel('Password').fill(demoPassword)
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.locator('.window').first().waitFor()
    await shoot({ page, context, browser, url: stack.url, advance, ask, answerOutside, queued, shot })
  }
  finally {
    await stack.stop()
  }
}

/**
 * A sailing has been cancelled: the queue of those who ask about it is open, in the dark theme.
 * @param {Stage} stage
 */
async function shootCancelled({ page, advance, shot }) {
  await advance(1)
  await page.getByRole('button', { name: /^Sailing news queue/ }).click()
  await page.getByRole('list', { name: 'Who waits' }).waitFor()
  await page.getByRole('button', { name: 'Dark theme' }).click()
  await page.locator('html.dark').waitFor()
  await shot('cancelled-dark')
}

/** @param {Stage} stage */
async function shootMorning({ page, advance, shot }) {
  const answer = async () => {
    const { length } = await page.locator('.inHand :is(.ribbon, .line)').all()
    await page.keyboard.press('Enter')
    await page.locator('.inHand :is(.ribbon, .line)').nth(length).waitFor()
  }
  await advance(17)
  await page.locator('.arriving .ribbon').first().waitFor()
  await answer()
  await advance(4)
  await page.locator('.inHand .caption').first().waitFor()
  await shot('console')
  await page.keyboard.type('mar')
  await page.getByRole('option').first().waitFor()
  await shot('answers')
  await page.keyboard.press('Escape')
  await page.keyboard.type('lost property')
  await page.getByRole('option').first().waitFor()
  await page.keyboard.press('Enter')
  await page.locator('.passedOn .line').first().waitFor()
  await answer()
  await advance(4)
  await answer()
  await advance(9)
  await page.setViewportSize({ width: 380, height: 800 })
  await shot('strip')
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.keyboard.type('*3')
  await page.locator('.slots .taken').waitFor()
  await advance(120)
  await page.getByRole('link', { name: 'Contacts' }).click()
  await page.getByRole('row').nth(1).waitFor()
  await shot('contacts')
  await page.getByRole('link', { name: 'Call log' }).click()
  await page.getByRole('button', { name: /^Story of/ }).first().waitFor()
  const told = page.getByRole('row').filter({ hasText: 'Ines Quillfeather, then' }).first()
  if (await told.count()) await told.getByRole('button', { name: /^Story of/ }).click()
  await shot('log')
}

/** @param {Stage} stage */
async function shootBusy({ page, context, browser, url, advance, ask, answerOutside, queued, shot }) {
  await page.locator('.ribbon.asking').waitFor()
  await shot('busy')
  for (const name of ['Bartholomew Hargreaves', 'Thessaly Oakhart', 'Roderick Amblecote']) {
    await queued(name)
    await advance(4)
  }
  await page.keyboard.press('=')
  await page.keyboard.press('=')
  await page.getByRole('list', { name: 'Who waits' }).waitFor()
  await shot('queue')
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await page.locator('#who').focus()
  await page.keyboard.press('!')
  await page.keyboard.press('f')
  await page.getByRole('button', { name: 'Arrange' }).click()
  await page.getByRole('button', { name: 'Pin to the floor' }).click()
  await page.getByRole('button', { name: 'Done' }).click()
  await page.locator('#who').focus()
  await page.keyboard.press('!')
  await page.keyboard.press('b')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Curlew, bridge/ }).waitFor()
  await shot('keys')
  await page.getByRole('button', { name: 'Arrange' }).click()
  await page.getByRole('button', { name: /^f My desk|My desk$/ }).click()
  await page.getByRole('button', { name: 'Unpin from the floor' }).click()
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await page.locator('#who').focus()

  await page.keyboard.press('&')
  await page.getByRole('button', { name: 'Read out …' }).click()
  await page.getByRole('button', { name: /^We are sorry/ }).click()
  await page.getByText('said 1 of 2 times').waitFor()
  await page.keyboard.press('Escape')
  await page.getByRole('region', { name: 'Who was reached' }).getByRole('button', { name: 'Close' }).click()
  await page.locator('#who').focus()
  await page.keyboard.press('ArrowLeft')
  await page.locator('.inHand .ribbon.none').waitFor()

  await page.keyboard.press('F8')
  await page.getByText('Conference').first().waitFor()
  await page.keyboard.type('2105')
  await page.getByRole('option').first().waitFor()
  await page.keyboard.press('F8')
  await page.getByText('is being rung').waitFor()

  await page.keyboard.type('2150')
  await page.getByRole('option').first().waitFor()
  await page.keyboard.press('F4')
  const sheet = page.getByRole('dialog', { name: 'Take a message' })
  await sheet.getByLabel('What about').fill('Two lorries for Thursday: is there room on deck?')
  await sheet.getByRole('button', { name: 'Leave message' }).click()
  await sheet.waitFor({ state: 'hidden' })
  await page.keyboard.press('Escape')
  await page.keyboard.press('Delete')
  await page.keyboard.press('Delete')
  await page.locator('.arriving .ribbon').first().waitFor()
  await page.keyboard.press('Enter')
  await page.keyboard.type('2150')
  await page.getByRole('option').first().waitFor()
  await page.getByRole('button', { name: /^Keep in a slot/ }).click()
  await page.getByRole('button', { name: /kept for/ }).nth(1).waitFor()
  const handset = await context.newPage()
  await handset.goto('/handset?of=t2150&of=outside&of=t2117')
  await handset.getByText('● message').first().waitFor()
  await shot('handset', handset)
  await handset.close()
  await page.getByRole('link', { name: 'Messages' }).click()
  await page.getByRole('region', { name: 'Taken down by you' }).getByRole('listitem').first().waitFor()
  await advance(1)
  await shot('messages')
  await page.getByRole('link', { name: 'Console', exact: true }).click()
  await page.locator('.arriving .ribbon').first().waitFor()
  await page.keyboard.press('Enter')
  await page.locator('.inHand .ribbon.none').waitFor()
  await page.keyboard.type('07700 900444')
  await page.keyboard.press('Enter')
  await page.locator('.passedOn .line').waitFor()
  await answerOutside()
  await advance(6)
  await page.getByRole('link', { name: 'Outside' }).click()
  await page.getByRole('row').nth(1).waitFor()
  await shot('outside')
  await page.getByRole('link', { name: 'Who is where' }).click()
  await page.getByRole('row', { name: /^Berth 1/ }).waitFor()
  await shot('whereabouts')
  const signIn = async (/** @type {string} */ who) => {
    const own = await (await browser.newContext({ baseURL: url, viewport: { width: 1280, height: 800 }, timezoneId: 'UTC', reducedMotion: 'reduce' })).newPage()
    await own.goto('/sign-in')
    await own.getByLabel('Sign-in name').fill(who)
    await own.getByLabel('Password').fill(demoPassword)
    await own.getByRole('button', { name: 'Sign in' }).click()
    return own
  }
  for (const [name, number, queue, line] of [
    ['Perpetua Wainscott', '07700 900321', 'queue:freight', 'freight'], ['Wilfred Osprey', '01632 960777', 'operators', 'general'],
    ['Milo Tarn', '07700 900388', 'queue:sailingNews', 'control'],
  ]) await ask({ service: 'promiseCallBack', device: 't2101', name, number, queue, line })
  await page.getByRole('link', { name: /^Call-backs/ }).click()
  await page.getByRole('button', { name: 'Wilfred Osprey' }).click()
  await shot('call-backs')
  const tomas = await signIn('tomas')
  await tomas.getByRole('link', { name: /^Shift/ }).click()
  await tomas.getByLabel('A note').fill('The papers for Thursday are with Freight: ask before noon.')
  await tomas.getByRole('button', { name: 'Note it' }).click()
  await tomas.getByRole('listitem').filter({ hasText: 'papers for Thursday' }).waitFor()
  await ask({ service: 'setOpening', device: 't2101', of: 'harbour', open: false, until: null })
  await ask({ service: 'offerLine', device: 't2101', line: 'freight', to: 't2100' })
  await tomas.getByLabel('What the next should know first').fill('The 14:10 to Hallow is cancelled; callers take the 16:00.')
  await tomas.getByRole('button', { name: 'Hand over the shift' }).click()
  await page.getByRole('link', { name: /^Shift/ }).click()
  await page.getByRole('button', { name: /^I have seen/ }).waitFor()
  await shot('shift')
  const administrator = await signIn('admin')
  await administrator.getByRole('link', { name: 'Company' }).click()
  await administrator.getByRole('row').nth(5).getByRole('button').click()
  await administrator.getByRole('button', { name: 'Save' }).waitFor()
  await shot('company', administrator)
  await administrator.goto('/first-hour?step=hours')
  await administrator.getByLabel('The whole week, typed at once').waitFor()
  await shot('first-hour', administrator)
  await administrator.getByRole('link', { name: 'Reports', exact: true }).click()
  await administrator.getByRole('heading', { name: 'Where calls go' }).waitFor()
  await shot('figures', administrator)
  await administrator.getByRole('link', { name: 'Look ahead' }).click()
  await administrator.getByRole('heading', { name: 'How sure is this?' }).waitFor()
  await administrator.getByRole('combobox', { name: 'Queue' }).press('Enter')
  await administrator.getByRole('option', { name: 'Reservations queue' }).click()
  await administrator.getByText(/^Made of/).waitFor()
  await shot('ahead', administrator)
}
