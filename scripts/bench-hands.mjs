import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { talkTo } from './link.mjs'
import { buildWhenStale, chromium, installChromium, installNpmPackages } from './packages.mjs'
import { prepareDatabase } from './database.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './processes.mjs'
import { run, say, Stop } from './say.mjs'
import { createStack, demoPassword } from './stack.mjs'

/** npm run bench:hands: how many keys and pointer actions an operator needs, counted in the browser on the real interface. */
run(async () => {
  await installNpmPackages()
  await installChromium()
  await buildWhenStale()
  const postgres = await startPostgres('hands-postgres', { fresh: true })
  const stack = createStack({ databaseUrl: await prepareDatabase(postgres.superuserUrl, 'hands'), exchangeArgs: ['--pace', 'still'], output: 'ignore' })
  const { chromium: launcher } = await import('@playwright/test')
  const browser = await launcher.launch({ executablePath: chromium(), args: ['--no-sandbox', '--disable-gpu'] })
  try {
    await stack.start()
    const rows = await measure(stack, browser)
    console.table(rows)
    mkdirSync(join(root, '.data'), { recursive: true })
    writeFileSync(join(root, '.data/bench-hands.json'), JSON.stringify(rows, null, 2))
    const over = rows.filter(row => row.keys > row.aim)
    if (over.length > 0) throw new Stop(`More keys than aimed for: ${over.map(row => row.action).join(', ')}.`)
  }
  finally {
    await browser.close()
    await stack.stop()
    await postgres.stop()
  }
})

/**
 * @param {import('./stack.mjs').Stack} stack
 * @param {import('@playwright/test').Browser} browser
 */
async function measure(stack, browser) {
  const exchange = await cast(stack)
  const context = await browser.newContext({ baseURL: stack.url, viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  // What the hand does, as the browser sees it: each press of a key other than a modifier, each press of the pointer.
  await page.addInitScript(() => {
    const count = (/** @type {'keys' | 'pointer'} */ what) => {
      const { dataset } = document.documentElement
      dataset[what] = String(Number(dataset[what] ?? 0) + 1)
    }
    addEventListener('keydown', event => !['Shift', 'Control'].includes(event.key) && count('keys'), true)
    addEventListener('pointerdown', () => count('pointer'), true)
  })
  await page.goto('/sign-in')
  await page.getByLabel('Sign-in name').fill('ines')
  await page.getByLabel('Password').fill(demoPassword)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.locator('.window').first().waitFor()
  const person = await decidedByThreeLetters(page)
  say(`the name: ${person.first} ${person.last}, by the letters “${person.letters}”`)
  const inHand = page.locator('.inHand :is(.ribbon, .line)')
  const passedOn = page.locator('.passedOn .line')
  const window_ = page.locator(`.window[data-person="${person.device}"]`)
  /** @type {{ action: string, keys: number, aim: number, pointer: number }[]} */
  const rows = []

  const arrive = async () => {
    const call = await exchange.offer()
    await page.locator('.arriving .ribbon').first().waitFor()
    return call
  }
  /**
   * Counts what `does` takes by keyboard, and what `clicks` takes by pointer, each from the same beginning.
   * @param {string} action
   * @param {number} aim
   * @param {() => Promise<unknown>} begin
   * @param {(call: unknown) => Promise<void>} does
   * @param {(call: unknown) => Promise<void>} clicks
   */
  const count = async (action, aim, begin, does, clicks) => {
    const hands = []
    for (const way of [does, clicks]) {
      const beginning = await begin()
      await page.evaluate(() => { Object.assign(document.documentElement.dataset, { keys: '0', pointer: '0' }) })
      await way(beginning)
      hands.push(await page.evaluate(() => ({ ...document.documentElement.dataset })))
      await exchange.clear()
      await page.locator('.inHand .nobody').waitFor()
      await page.getByRole('combobox').focus()
    }
    rows.push({ action, keys: Number(hands[0]?.keys), aim, pointer: Number(hands[1]?.pointer) })
  }
  /** @param {string} keys */
  const press = keys => page.keyboard.press(keys)
  const named = async () => {
    await page.keyboard.type(person.letters)
    await page.getByRole('option', { selected: true }).filter({ hasText: person.last }).waitFor()
  }
  /** @param {RegExp} name */
  const click = name => page.getByRole('button', { name }).first().click()
  const answered = async () => {
    await arrive()
    await press('Enter')
    await inHand.first().waitFor()
  }

  await count('answer and pass on blind', 5, arrive, async () => {
    await press('Enter')
    await inHand.first().waitFor()
    await named()
    await press('Enter')
    await passedOn.first().waitFor()
  }, async () => {
    await click(/^Answer /)
    await window_.click()
    await click(/passes /)
    await passedOn.first().waitFor()
  })
  /**
   * @param {() => Promise<void>} ask
   * @param {() => Promise<void>} yes
   */
  const announced = async (ask, yes) => {
    await ask()
    const asking = await exchange.ringingAt(person.device)
    await exchange.ask({ service: 'answerCall', device: person.device, call: asking })
    await page.locator('.ribbon.asking.none').waitFor()
    await yes()
    await page.locator('.inHand .nobody').waitFor()
  }
  await count('answer, ask first, hand over', 6, arrive, async () => {
    await press('Enter')
    await inHand.first().waitFor()
    await named()
    await announced(() => press('Shift+Enter'), () => press('Enter'))
  }, async () => {
    await click(/^Answer /)
    await window_.click()
    await announced(() => click(/^Ask first/), () => click(/^Hand /))
  })
  await count('answer and park for a person', 6, arrive, async () => {
    await press('Enter')
    await inHand.first().waitFor()
    await named()
    await press('Control+Enter')
    await page.locator('.slots .taken').waitFor()
  }, async () => {
    await click(/^Answer /)
    await window_.click()
    await click(/^Keep in a slot/)
    await page.locator('.slots .taken').waitFor()
  })
  await count('take back from hold', 1, async () => {
    await answered()
    await press('Space')
    await page.locator('.line.hold').waitFor()
  }, async () => {
    await press('Space')
    await page.locator('.ribbon.none').waitFor()
  }, async () => {
    await click(/^Take back/)
    await page.locator('.ribbon.none').waitFor()
  })
  await count('pull back what still rings', 1, async () => {
    await answered()
    await named()
    await press('Enter')
    await passedOn.first().waitFor()
  }, async () => {
    await press('Backspace')
    await inHand.first().waitFor()
  }, async () => {
    await click(/^Pull back/)
    await inHand.first().waitFor()
  })
  await count('swap between two', 1, async () => {
    await answered()
    await answered()
    await page.locator('.line.hold').waitFor()
  }, async () => {
    const before = await page.locator('.line.hold .name').textContent()
    await press('ArrowLeft')
    await page.locator('.ribbon.none').filter({ hasText: before ?? '' }).waitFor()
  }, async () => {
    const before = await page.locator('.line.hold .name').textContent()
    await click(/^Take back/)
    await page.locator('.ribbon.none').filter({ hasText: before ?? '' }).waitFor()
  })
  await count('take from a park slot', 2, async () => {
    await answered()
    await page.keyboard.type('*3')
    await page.locator('.slots .taken').waitFor()
  }, async () => {
    await page.keyboard.type('#3')
    await inHand.first().waitFor()
  }, async () => {
    await click(/^Take .* from slot/)
    await inHand.first().waitFor()
  })
  return rows
}

/**
 * Somebody whose last name's first three letters begin no other word that the search knows.
 * @param {import('@playwright/test').Page} page
 */
async function decidedByThreeLetters(page) {
  const { people: all, telephones, departments } = await (await page.request.get('/api/company')).json()
  const people = Object.values(telephones)
    .filter(({ person }) => person)
    .map(({ id, number, person }) => ({
      ...all[person],
      device: id,
      extension: number,
      departmentName: departments[all[person].department].name,
      handles: departments[all[person].department].handles,
    }))
  /** @param {string} text */
  const words = text => text.toLowerCase().split(/[^\p{L}\p{N}]+/u)
  const starts = new Map()
  for (const person of people) {
    for (const word of new Set([person.first, person.last, person.nickname ?? '', person.departmentName, person.role, ...person.handles].flatMap(words))) {
      starts.set(word.slice(0, 3), (starts.get(word.slice(0, 3)) ?? 0) + 1)
    }
  }
  const person = people.find(({ last, extension }) => Number(extension) > 2110 && /^[a-z]{4,}$/i.test(last) && starts.get(last.slice(0, 3).toLowerCase()) === 1)
  if (!person) throw new Stop('Nobody in the demo company has a name that three letters decide.')
  return { ...person, letters: person.last.slice(0, 3).toLowerCase() }
}

/**
 * Plays callers and colleagues, and knows which calls there are.
 * @param {import('./stack.mjs').Stack} stack
 */
async function cast(stack) {
  const rings = new Map()
  const calls = new Map()
  let serial = 0
  const { ask } = await talkTo(stack, (event) => {
    if (event.type === 'delivered') rings.set(event.device, event.call)
    if (event.type === 'originated') calls.set(event.call, new Set())
    calls.get(event.call)?.add(event.device)
    if (event.type === 'callCleared') calls.delete(event.call)
    if (event.joined) calls.delete(event.joined)
  })
  return {
    ask,
    offer: async () => (await ask({ service: 'offerCall', trunk: 'east', party: { name: `Caller ${++serial}`, number: null }, number: '+441632960000' })).call,
    /** @param {string} device */
    async ringingAt(device) {
      while (!calls.has(rings.get(device))) await new Promise(resolve => setTimeout(resolve, 20))
      return rings.get(device)
    },
    async clear() {
      for (const [call, devices] of [...calls]) for (const device of devices) await ask({ service: 'clearConnection', device, call })
    },
  }
}
