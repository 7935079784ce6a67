import { execFileSync } from 'node:child_process'
import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, alone, ribbon, type Stage } from './stage'

/** From an empty database to the first answered call, on the screen alone. */
const test = alone({ bare: true })

async function asKeeper(stage: Stage, page: Page): Promise<void> {
  const said = execFileSync(process.execPath, ['.output/commands/administrator.mjs', 'keeper'], {
    env: { ...process.env, NUXT_DATABASE_URL: stage.serverUrl }, encoding: 'utf8',
  })
  await page.goto(`${stage.url}/sign-in`)
  await page.getByLabel('Sign-in name').fill('keeper')
  await page.getByLabel('Password').fill(/shown this once: (\S+)/.exec(said)![1]!)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('link', { name: 'Company' })).toBeVisible()
}

const step = (page: Page, name: string) => page.getByRole('heading', { level: 2, name })
const goOn = (page: Page) => page.getByRole('button', { name: 'Keep, and go on' }).click()

/** As many people as a small house has, from a program that names its columns in its own way; some of the rows are wrong. */
const people = [
  'Mitarbeiter;Abteilung;Telefon;Funktion;Handy;E-Mail', '"Quist, Zephyrine";Front desk;201;Receptionist;;z@orders.example',
  ...Array.from({ length: 60 }, (_, index) => `Vera Row${index};${['Orders', 'Stores', 'Drivers'][index % 3]};${index % 2 ? '' : 300 + index};;;`),
  ';Orders;;;;', 'Otto Brine;Orders;twelve;;;',
].join('\n')

test('a house that is not the demo: set up on the screen alone, and its first call answered', async ({ own, browser }) => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })
  const page = await context.newPage()
  await asKeeper(own, page)
  await expect(page.getByText('This house can\'t answer a call yet.')).toBeVisible()
  await page.getByRole('button', { name: 'First hour' }).click()
  await expect(step(page, 'The house')).toBeFocused()
  const still = page.getByRole('status').filter({ hasText: /first call|Nothing is missing/ })
  await expect(still).toContainText('the name of the house')

  // What is missing is said, and nothing is lost by it.
  await goOn(page)
  await expect(page.getByRole('main').getByRole('alert')).toContainText('Say what the house is called')
  await page.getByLabel('Name of the house').fill('Orders & Stores')
  await page.getByLabel('Extensions begin at').fill('2')
  await goOn(page)
  await expect(page.getByRole('main').getByRole('alert')).toContainText('Extensions begin at must be 2 to 7 digits.')
  await page.getByLabel('Extensions begin at').fill('200')
  await expect(page.getByText('Emergency numbers there: 999, 112.')).toBeVisible()
  await goOn(page)

  await expect(step(page, 'The general line')).toBeVisible()
  await page.getByLabel('Its number, as people write it').fill('12')
  await goOn(page)
  await expect(page.getByRole('main').getByRole('alert')).toContainText('General line has the number "12", which is none: write it with its area code.')
  await page.getByLabel('Its number, as people write it').fill('(01632) 960 200')
  await goOn(page)

  // People from another program's table: what is wrong is told by its line, and the others come.
  await expect(step(page, 'People')).toBeVisible()
  const file = page.getByLabel(/A table from any program/)
  await file.setInputFiles({ name: 'people.csv', mimeType: 'text/csv', buffer: Buffer.from('name,department\n"Open,Orders\n') })
  await expect(page.getByRole('main').getByRole('alert')).toContainText('A quotation mark is opened')
  await file.setInputFiles({ name: 'people.xlsx', mimeType: 'text/csv', buffer: Buffer.from('PK\u0003\u0004\u0000\u0000') })
  await expect(page.getByRole('main').getByRole('alert')).toContainText('This is no text')
  await file.setInputFiles({ name: 'people.csv', mimeType: 'text/csv', buffer: Buffer.from(people) })
  await expect(page.getByText('people.csv: 61 new, 0 changed, 0 as they are, 2 refused.')).toBeVisible()
  await page.getByRole('radiogroup', { name: 'Which rows' }).getByText('refused').click()
  await expect(page.getByRole('row', { name: /64 Otto Brine refused: twelve is no extension/ })).toBeVisible()
  await page.getByRole('button', { name: 'Bring them in' }).click()
  await expect(page.getByText('61 new and 0 changed.')).toBeVisible()
  await page.getByLabel('First name').fill('Una')
  await page.getByLabel('Last name').fill('Vale')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText(/^Una Vale has 2\d\d\.$/)).toBeVisible()
  await page.getByRole('button', { name: 'Go on with 62 people' }).click()

  await expect(step(page, 'Who answers')).toBeVisible()
  await page.getByRole('combobox', { name: 'Who answers, in order' }).fill('Zephyrine')
  await page.getByRole('option', { name: /Zephyrine Quist/ }).click()
  await page.getByRole('combobox', { name: 'Who answers, in order' }).fill('Una')
  await page.getByRole('option', { name: /Una Vale/ }).click()
  await step(page, 'Who answers').click()
  await goOn(page)

  // The hours that were stored as Monday and Friday once: everything is understood, and seen before it is kept.
  await expect(step(page, 'Hours and holidays')).toBeVisible()
  await page.getByLabel('The whole week, typed at once').fill('Mon 8:00-12:00 13:00-18:00 / Tue-Thu 8-18 / friday 8:00-16:00')
  await expect(page.getByLabel('Wednesday', { exact: true })).toHaveValue('8:00-18:00')
  await page.getByLabel('Saturday', { exact: true }).fill('nine to one')
  await goOn(page)
  await expect(page.getByRole('main').getByRole('alert').filter({ hasText: 'Saturday' })).toContainText('can\'t be read as times')
  await page.getByLabel('Saturday', { exact: true }).fill('9-13')
  await page.getByRole('button', { name: /Propose \d+ public holidays/ }).click()
  const holidays = page.getByLabel('Days on which it is closed, one to a line')
  await expect(holidays).toHaveValue(/Christmas Day/)
  await holidays.fill('26.12.2026 Boxing Day\nsome day')
  await goOn(page)
  await expect(page.getByRole('main').getByRole('alert').filter({ hasText: 'some day' }).first()).toContainText('Line 2')
  await holidays.fill('26.12.2026 Boxing Day')
  await goOn(page)
  await expect(step(page, 'Accounts')).toBeVisible()
  await expect.poll(() => Object.keys(own.cast.state.company.hours).length).toBe(1)
  const [hours] = Object.values(own.cast.state.company.hours)
  expect(new Set(hours!.week.map(({ day }) => day))).toEqual(new Set([1, 2, 3, 4, 5, 6]))
  expect(hours!.holidays).toEqual([{ date: '2026-12-26', name: 'Boxing Day' }])

  // One operator is whoever sets it up; the other gets an account, with a password to hand over.
  await page.getByRole('button', { name: 'Zephyrine Quist: that is me' }).click()
  await expect(page.getByRole('row', { name: /Zephyrine Quist keeper, administrator/ })).toBeVisible()
  await page.getByRole('button', { name: 'Make an account' }).click()
  await expect(page.getByRole('row', { name: /^Una Vale una \S{10,}$/ })).toBeVisible()
  await expect(still).toContainText('Nothing is missing')
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
  await page.getByRole('button', { name: 'Go on', exact: true }).click()

  await expect(step(page, 'A first call')).toBeVisible()
  // It is any hour of any day when this runs.
  const [line] = Object.values(own.cast.state.company.lines)
  const open = page.getByRole('button', { name: 'Open it for an hour' })
  const ring = page.getByRole('button', { name: 'Ring General line' })
  await expect(ring).toBeEnabled()
  if (await open.isVisible()) {
    await open.click()
    await expect(open).toBeHidden()
  }
  await ring.click()
  await expect(page.getByText('It rings')).toBeVisible()
  await page.getByRole('link', { name: 'Console', exact: true }).click()
  await expect(ribbon(page, 'Arriving', 'A first caller')).toContainText('General line')
  await page.getByRole('button', { name: 'Answer A first caller' }).click()
  await expect(ribbon(page, 'In hand', 'A first caller')).toContainText('talking')
  await expect(page.getByText('This house can\'t answer a call yet.')).toBeHidden()
  expect(line).toMatchObject({ number: '+441632960200', greeting: 'Orders & Stores, how can I help you?' })
  const slots = Object.values(own.cast.state.company.slots).map(({ name }) => name)
  expect(slots).toEqual(Array.from({ length: 10 }, (_, index) => String(index + 1)))
  expect(own.cast.state.company.shortNumbers['999']).toMatchObject({ emergency: true })

  // Whoever sets it up ends the callers whom they play, and nobody who is real.
  const { call: real } = await own.cast.ask({
    service: 'offerCall', trunk: Object.keys(own.cast.state.company.trunks)[0]!, party: { name: 'Really There', number: '+447700900321' }, number: line!.number,
  })
  await expect(ribbon(page, 'Arriving', 'Really There')).toBeVisible()
  const played = [...own.cast.state.calls.values()].find(({ party }) => party?.name === 'A first caller')!
  const clear = (call: string, device: string) => page.request.post(`${own.url}/api/handset`, {
    data: { id: crypto.randomUUID(), service: 'clearConnection', call, device },
  })
  expect((await clear(real!, own.cast.state.calls.get(real!)!.calling)).status()).toBe(403)
  expect((await clear(played.id, own.cast.state.calls.get(real!)!.calling)).status()).toBe(403)
  expect(own.cast.state.calls.has(real!)).toBe(true)
  expect((await clear(played.id, played.calling)).status()).toBe(200)
  await expect(ribbon(page, 'In hand', 'A first caller')).toBeHidden()

  // All of it is on record, in the words of the forms, and is undone by one action each.
  await page.goto(`${own.url}/company/changes`)
  await page.getByRole('button', { name: /^Undo: General line, Open: nothing → Office hours/ }).click()
  await expect(page.getByText('Undone.')).toBeVisible()
  await expect.poll(() => Object.keys(own.cast.state.company.hours)).toEqual([])
  await page.getByRole('button', { name: 'Earlier ones' }).click()
  await page.getByRole('button', { name: 'More', exact: true }).click()
  await expect(page.getByRole('row').filter({ hasText: 'Settings' })).toContainText('Name of the house: nothing → Orders & Stores')
  await context.close()
})

test('the wizard in two tabs: the second does not write over what the first has done', async ({ own, browser }) => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const [one, two] = [await context.newPage(), await context.newPage()]
  await asKeeper(own, one)
  for (const page of [one, two]) {
    await page.goto(`${own.url}/first-hour`)
    await page.getByLabel('Name of the house').fill(page === one ? 'The first' : 'The second')
  }
  await goOn(one)
  await expect(step(one, 'The general line')).toBeVisible()
  // It has heard of it meanwhile, and shows what it would change: the settings are those of the first until somebody means it.
  await expect.poll(() => own.cast.state.company.settings.name).toBe('The first')
  await two.route('**/api/company', async (route) => {
    const body = route.request().postDataJSON() as { seen: { value: { name: string } }[] }
    body.seen[0]!.value.name = ''
    await route.continue({ postData: JSON.stringify(body) })
  })
  await two.getByRole('button', { name: 'The house' }).click()
  await two.getByLabel('Name of the house').fill('The second')
  await goOn(two)
  await expect(two.getByRole('main').getByRole('alert')).toContainText('has changed the settings meanwhile')
  expect(own.cast.state.company.settings.name).toBe('The first')
  await context.close()
})
