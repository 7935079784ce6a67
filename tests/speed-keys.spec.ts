import type { Page } from '@playwright/test'
import type { KeyPage } from '../core/speed-keys/key'
import { expect, name, ribbon, test } from './stage'

const panelOf = (page: Page) => page.getByRole('complementary', { name: 'Speed keys' })
const pages = async (page: Page) => await (await page.request.get('/api/key-pages')).json() as KeyPage[]

test('a page and a key are three strokes away: one calls, passes on, or asks first; it says so before', async ({ console, stage }) => {
  const { cast } = stage
  const log = console.getByRole('log', { name: 'What happens' })
  const [every] = await pages(console)
  const master = cast.state.company.people[every!.keys.find(({ label }) => label === 'Harbour master')!.of]!
  await cast.ring('Key Caller')
  await expect(ribbon(console, 'Arriving', 'Key Caller')).toBeVisible()
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', 'Key Caller')).toContainText('talking')
  await console.keyboard.press('!')
  await expect(log).toContainText('Which page? a Every day, b Weather and delays')
  const key = panelOf(console).getByRole('button', { name: /^Harbour master,/ })
  await expect(key).toHaveAccessibleName(`Harbour master, free: passes Key Caller on to ${master.first} ${master.last}`)
  await console.keyboard.press('a')
  await expect(log).toContainText('Every day: which key?')
  await console.keyboard.press('5')
  await expect(ribbon(console, 'Passed on', 'Key Caller')).toContainText(`rings at ${master.first} ${master.last}`)
  await console.keyboard.press('Backspace')
  await expect(ribbon(console, 'In hand', 'Key Caller')).toContainText('talking')

  // With Shift the colleague is asked while the caller waits.
  await console.keyboard.press('!')
  await console.keyboard.press('a')
  await console.keyboard.press('Shift+Digit5')
  await expect(ribbon(console, 'In hand', 'Key Caller')).toContainText('waits while you ask')
  await console.keyboard.press('Backspace')

  // A stroke that names nothing does nothing and says so; Escape gives up; Enter still means the calls.
  await console.keyboard.press('!')
  await console.keyboard.press('z')
  await expect(console.getByText('There is no page z. Nothing was done.')).toBeVisible()
  // The same stroke begins anew, wherever one was.
  await console.keyboard.press('!')
  await console.keyboard.press('f')
  await console.keyboard.press('!')
  await console.keyboard.press('Escape')
  await console.keyboard.press('a')
  await expect(console.getByRole('combobox', { name: 'Who is it for?' })).toHaveValue('a')
  await console.keyboard.press('Escape')

  // A slot: one gesture parks, another takes.
  await panelOf(console).getByRole('button', { name: /^f My desk|My desk$/ }).click()
  const slot = panelOf(console).getByRole('button', { name: /^park slot 1,/ })
  await expect(slot).toHaveAccessibleName('park slot 1, nobody: Nobody waits in park slot 1. Shift parks there.')
  await slot.click({ modifiers: ['Shift'] })
  await expect(slot).toHaveAccessibleName(/^park slot 1, Key Caller \d:\d\d: takes who waits in park slot 1$/)
  await slot.click()
  await expect(ribbon(console, 'In hand', 'Key Caller')).toContainText('talking')

  // Lunch, and back.
  await panelOf(console).getByRole('button', { name: /^I am at lunch/ }).click()
  await expect(panelOf(console).getByRole('button', { name: /^I am at lunch, now/ })).toBeVisible()
  await panelOf(console).getByRole('button', { name: /^Available:/ }).click()
  await expect(panelOf(console).getByRole('button', { name: /^Available, now/ })).toBeVisible()
})

test('keys are made of who is named, arranged by keyboard, pinned, given out and read in; two who arrange one', async ({ console, stage, browser }) => {
  const log = console.getByRole('log', { name: 'What happens' })
  const panel = panelOf(console)
  const person = stage.cast.state.company.telephones.t2140!
  await console.getByRole('button', { name: 'Slot 1, free' }).focus()
  await console.keyboard.press('Shift+F9')
  await expect(panel.getByRole('list', { name: 'Every day' }).getByRole('button').last()).toHaveAccessibleName(/^park slot 1, /)
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await name(console, person.name)
  await console.keyboard.press('Shift+F9')
  await expect(log).toContainText('On Every day: key')
  await expect(panel.getByRole('list', { name: 'Every day' }).getByRole('button').last()).toHaveAccessibleName(new RegExp(`^${person.name}, `))
  await console.keyboard.press('Escape')

  await panel.getByRole('button', { name: 'Arrange' }).click()
  const handles = panel.getByRole('list', { name: 'Keys in their order' }).getByRole('button', { name: /Shift and arrows move it$/ })
  await handles.last().focus()
  await console.keyboard.press('Shift+Home')
  await expect(handles.first()).toHaveAccessibleName(new RegExp(`^${person.name}, key 1 of`))
  await expect(handles.first()).toBeFocused()
  const label = panel.getByRole('textbox', { name: `Label of ${person.name}` })
  await label.fill('Always helps')
  await label.press('Enter')
  await expect(panel.getByRole('button', { name: 'Take Always helps off the page' })).toBeVisible()

  // Another operator has it too, and both change it at the same moment: the second is told, and sees the page as it is.
  const other = await stage.open(browser, 'tomas')
  await other.keyboard.press('!')
  await other.keyboard.press('a')
  await expect(panelOf(other).getByRole('button', { name: /^Always helps,/ })).toBeVisible()
  await other.keyboard.press('Escape')
  await panelOf(other).getByRole('button', { name: 'Arrange' }).click()
  await console.route('**/api/key-pages', route => route.request().method() === 'GET' ? route.abort() : route.continue())
  await panelOf(other).getByRole('button', { name: 'Take Quay taxis off the page' }).click()
  await expect(panelOf(other).getByRole('button', { name: 'Take Quay taxis off the page' })).toBeHidden()
  await panel.getByRole('button', { name: 'Take Hallow doctor off the page' }).click()
  await expect(console.getByText(/Somebody else has changed the page Every day at the same moment. Nothing of yours was changed/)).toBeVisible()
  await console.unroute('**/api/key-pages')
  await expect.poll(async () => (await pages(console))[0]!.keys.map(key => key.label)).toContain('Hallow doctor')
  expect((await pages(console))[0]!.keys.map(key => key.label)).not.toContain('Quay taxis')
  await other.context().close()

  // A page of one's own, as a copy; pinned along the floor; out and in again as CSV.
  await panel.getByRole('textbox', { name: 'Name of the new page' }).fill('Mine')
  await panel.getByText('Shared by all operators').click()
  await panel.getByRole('button', { name: 'Add as a copy of this one' }).click()
  await expect(panel.getByRole('button', { name: 'Mine', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await panel.getByRole('button', { name: 'Pin to the floor' }).click()
  await expect(console.getByRole('region', { name: 'Keys: Mine' }).getByRole('button', { name: /^Always helps,/ })).toBeVisible()
  const mine = (await pages(console)).find(page => page.name === 'Mine')!
  const csv = await (await console.request.get(`/api/key-pages/${mine.id}/csv`)).text()
  expect(csv).toMatch(/^kind,of,label,name\r\nperson,p2140,Always helps,/)
  const file = (text: string) => ({ name: 'keys.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await panel.locator('input[type=file]').setInputFiles(file('kind,of\nperson,2140\nperson,9999\n'))
  await expect(console.getByText('Line 3: There is no person "9999".')).toBeVisible()
  expect((await pages(console)).find(page => page.name === 'Mine')).toEqual(mine)
  await panel.locator('input[type=file]').setInputFiles(file('kind,of,label\nnumber,01632 960711,"<b>Taxi\u202E, at once</b>"\n'))
  await expect(panel.getByRole('textbox', { name: 'Label of 01632 960711' })).toHaveValue('<b>Taxi , at once</b>')

  // Whose own it is alone sees it; who answers for nobody sees no keys.
  const tomas = await stage.open(browser, 'tomas')
  expect((await tomas.request.get(`/api/key-pages/${mine.id}/csv`)).status()).toBe(404)
  expect((await pages(tomas)).map(page => page.name)).not.toContain('Mine')
  await tomas.context().close()
  const staff = await stage.open(browser, 'staff')
  expect((await staff.request.get('/api/key-pages')).status()).toBe(403)
})
