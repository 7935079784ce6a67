import type { Route } from '@playwright/test'
import { bytesUntilSeen, seenFrom } from '../scripts/first-load.mjs'
import { expect, name, signedIn, signIn, test } from './stage'

/** What a browser that has seen nothing yet fetches, and in which order. */

/** Bytes of script, packed, that the browser may fetch before everybody is in sight. */
const most = 265_000

test('everybody is in sight after 265 kB of script', async ({ stage, browser }) => {
  const context = await browser.newContext({ baseURL: stage.url })
  await context.addCookies((await (await signedIn(stage.url, 'ines')).storageState()).cookies)
  const page = await context.newPage()
  await page.addInitScript(seenFrom, '.window')
  await page.goto('/')
  await expect(page.getByRole('combobox', { name: 'Who is it for?' })).toBeFocused()
  await expect(page.locator('.window').first()).toBeVisible()
  const bytes = await page.evaluate(bytesUntilSeen, '.js')
  expect(bytes).toBeGreaterThan(100_000)
  expect(bytes).toBeLessThan(most)
  await context.close()
})

test('a menu that is pressed before menus can be opened opens when they can, and the keyboard stays with its button', async ({ stage, browser }) => {
  const page = await browser.newPage()
  const held: (() => void)[] = []
  let holds = true
  /** The script that opens menus comes late. */
  await page.route('**/_nuxt/*.js', async (route: Route) => {
    const response = await route.fetch()
    const opensMenus = (await response.text()).includes('ElDropdown')
    if (opensMenus && holds) await new Promise<void>(resolve => held.push(resolve))
    await route.fulfill({ response })
  })
  await signIn(page, stage.url, 'ines')
  const status = page.getByRole('button', { name: /^Own status/ })
  await status.focus()
  await expect.poll(() => held.length).toBeGreaterThan(0)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('menuitem')).toHaveCount(0)
  holds = false
  for (const release of held) release()
  await expect(page.getByRole('menuitem', { name: 'Away: lunch', exact: true })).toBeVisible()
  // It is drawn a moment before it has the keyboard.
  await expect(page.locator('[role="menu"]:focus-within')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(status).toBeFocused()
  await page.context().close()
})

test('a dialog that is asked for before it can be opened comes with what it was asked for, and proposes what it always does', async ({ stage, browser }) => {
  const page = await browser.newPage()
  const held: (() => void)[] = []
  let holds = true
  /** The dialog's script comes late. */
  await page.route('**/_nuxt/*.js', async (route: Route) => {
    const response = await route.fetch()
    if ((await response.text()).includes('quiet-until') && holds) await new Promise<void>(resolve => held.push(resolve))
    await route.fulfill({ response })
  })
  await signIn(page, stage.url, 'ines')
  const colleague = stage.cast.state.company.people.p2110!
  await name(page, `${colleague.first} ${colleague.last}`)
  await expect.poll(() => held.length).toBeGreaterThan(0)
  await page.keyboard.press('Shift+F8')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  holds = false
  for (const release of held) release()
  const dialog = page.getByRole('dialog', { name: `Do not disturb ${colleague.first} ${colleague.last}` })
  await expect(dialog.getByLabel('Until')).toHaveValue(/^\d{1,2}:\d\d$/)
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
  await page.context().close()
})
