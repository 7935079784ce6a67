import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { enter, expect, ribbon, test } from './stage'

// Looking at every one of two hundred windows takes a browser a while.
test.setTimeout(300_000)

async function expectNoFindings(page: Page, where: string): Promise<void> {
  // One window of the floor is like the other; the first rows stand for all of them.
  const { violations } = await new AxeBuilder({ page })
    .exclude('.floor .front > li:nth-child(n + 30)')
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .analyze()
  expect.soft(violations.map(({ id, nodes }) => `${where}: ${id} at ${nodes.slice(0, 3).map(node => node.target).join(' | ')}`)).toEqual([])
}

for (const theme of ['Light', 'Dark'] as const) {
  test(`axe finds nothing on any screen, ${theme.toLowerCase()} theme`, async ({ console, stage }) => {
    if (theme === 'Dark') await console.getByRole('button', { name: 'Dark theme' }).click()
    await expect(console.locator('html')).toHaveClass(theme === 'Dark' ? /dark/ : /light/)
    await expectNoFindings(console, 'quiet console')
    for (const name of ['Caller One', 'Caller Two', 'Caller Three']) await stage.cast.ring(name)
    await console.getByRole('button', { name: 'Answer Caller One' }).click()
    await expect(ribbon(console, 'In hand', 'Caller One')).toBeVisible()
    await console.getByRole('button', { name: 'Answer Caller Two' }).click()
    await expect(ribbon(console, 'In hand', 'Caller Two')).toContainText('talking')
    await expectNoFindings(console, 'busy console')
    await console.keyboard.type('freight')
    await expect(console.getByRole('option').first()).toBeVisible()
    await expectNoFindings(console, 'answers')
    await console.keyboard.press('Escape')
    await console.keyboard.press('!')
    await expect(console.getByRole('button', { name: /^Harbour master,/ })).toBeVisible()
    await expectNoFindings(console, 'speed keys')
    await console.keyboard.press('Escape')
    await console.getByRole('button', { name: 'Arrange' }).click()
    await expectNoFindings(console, 'speed keys arranged')
    await console.getByRole('link', { name: 'Call log' }).click()
    await expect(console.getByRole('row').filter({ hasText: 'Caller Two' }).first()).toBeVisible()
    await expectNoFindings(console, 'log')
  })

  test(`axe finds nothing on sheets and pages of the whole hand, ${theme.toLowerCase()} theme`, async ({ console, stage }) => {
    if (theme === 'Dark') await console.getByRole('button', { name: 'Dark theme' }).click()
    await stage.cast.ring('Sheet Caller')
    await console.getByRole('button', { name: 'Answer Sheet Caller' }).click()
    await expect(ribbon(console, 'In hand', 'Sheet Caller')).toContainText('talking')
    await console.keyboard.press('F9')
    await expect(console.getByRole('dialog', { name: 'Send digits' })).toBeVisible()
    await expectNoFindings(console, 'digits')
    await console.keyboard.press('Escape')
    await expect(console.getByRole('dialog', { name: 'Send digits' })).toBeHidden()
    await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
    await console.keyboard.press('F4')
    await expect(console.getByRole('dialog', { name: 'Take a message' })).toBeVisible()
    await expectNoFindings(console, 'message')
    await console.keyboard.press('Escape')
    await expect(console.getByRole('dialog', { name: 'Take a message' })).toBeHidden()
    await console.keyboard.press('_')
    await expect(console.getByRole('dialog', { name: 'Save caller' })).toBeVisible()
    await console.getByRole('dialog').getByText('Person of a company').click()
    await expectNoFindings(console, 'contact')
    await console.keyboard.press('Escape')
    await expect(console.getByRole('dialog', { name: 'Save caller' })).toBeHidden()
    await console.getByRole('button', { name: /^Own status/ }).click()
    await console.getByRole('menuitem', { name: 'Forward your calls …' }).click()
    await expect(console.getByRole('dialog', { name: 'Forward your calls' })).toBeVisible()
    await expectNoFindings(console, 'forwarding')
    await console.keyboard.press('Escape')
    await console.getByRole('region', { name: 'Queues' }).getByRole('button', { name: /^Freight queue/ }).click()
    await console.getByRole('button', { name: 'Close the Freight queue' }).click()
    await expect(console.getByRole('dialog', { name: 'Close the Freight queue' })).toBeVisible()
    await expectNoFindings(console, 'closing')
    await console.keyboard.press('Escape')
    await expect(console.getByRole('dialog', { name: 'Close the Freight queue' })).toBeHidden()
    await stage.cast.ask({ service: 'blockNumber', device: 't2101', number: '07700 900997', reason: 'shouts' })
    await stage.cast.ask({ service: 'makeCall', device: 't2101', number: 't2150' })
    for (const page of ['Who is where', 'Contacts', 'Parkings', 'Blocked', 'Outside', 'Messages', 'Handset']) {
      await console.getByRole('link', { name: page }).click()
      await expect(console.getByRole('heading', { level: 1, name: page })).toBeVisible()
      await expectNoFindings(console, page)
    }
    await console.getByRole('link', { name: 'Contacts' }).click()
    await console.getByRole('button', { name: 'Bring in…' }).click()
    const file = { name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.from('name,work\nNell,020 7946 0100\n,1\n') }
    await console.getByLabel(/A file of vCards/).setInputFiles(file)
    await expect(console.getByRole('heading', { name: '1 new contact, 0 changed' })).toBeVisible()
    await expectNoFindings(console, 'import')
    await console.getByRole('link', { name: 'Ines Quillfeather' }).click()
    await expect(console.getByRole('listitem').filter({ hasText: 'this one' })).toBeVisible()
    await expectNoFindings(console, 'account')
    await stage.cast.ask({ service: 'unblockNumber', device: 't2101', number: '+447700900997' })
  })
}

test('axe finds nothing on the pages of an administrator', async ({ browser, stage }) => {
  const page = await (await browser.newContext({ baseURL: stage.url, viewport: { width: 1280, height: 800 } })).newPage()
  await enter(page, stage.url, 'admin')
  await page.getByRole('link', { name: 'Accounts' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'Ines Quillfeather' })).toBeVisible()
  await expectNoFindings(page, 'accounts')
  await page.getByRole('link', { name: 'Who is where' }).click()
  await page.getByRole('button', { name: 'Roster of Engineering on call' }).click()
  await expect(page.getByRole('dialog', { name: 'Calendar of Engineering on call' }).getByText('None is known yet.')).toBeVisible()
  await expectNoFindings(page, 'roster')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Company' }).click()
  for (const part of ['People', 'Groups and queues', 'Opening hours', 'Lines']) {
    await page.getByRole('combobox', { name: 'Which part' }).press('Enter')
    await page.getByRole('option', { name: part, exact: true }).click()
    await page.getByRole('row').nth(1).getByRole('button').click()
    await expect(page.getByRole('button', { name: 'Save' })).toBeVisible()
    await expectNoFindings(page, `company, ${part}`)
  }
  for (const where of ['What was changed', 'Company file']) {
    await page.getByRole('button', { name: where }).click()
    await expect(page.getByRole('heading', { level: 1, name: where })).toBeVisible()
    await expectNoFindings(page, where)
    await page.getByRole('button', { name: 'Back to the company' }).click()
  }
  await page.getByRole('link', { name: 'Charges' }).click()
  await expect(page.getByRole('row', { name: /^All/ })).toBeVisible()
  await expectNoFindings(page, 'charges')
  await page.getByRole('link', { name: 'Connections' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'Telephone exchange' })).toContainText('well')
  await expectNoFindings(page, 'connections')
  await page.getByRole('link', { name: 'Upkeep' }).click()
  await expect(page.getByText('is up to date')).toBeVisible()
  await expectNoFindings(page, 'upkeep')
  await page.context().close()
})

test('axe finds nothing on the sign-in page', async ({ page, stage }) => {
  await page.goto(`${stage.url}/sign-in`)
  await expect(page.getByLabel('Sign-in name')).toBeVisible()
  await expectNoFindings(page, 'sign-in')
})

test('the page never scrolls sideways or as a whole: 1280×800, 1920×1080, 380 px wide', async ({ console, stage }) => {
  await stage.cast.ring('A Caller With Quite A Long Name Indeed')
  for (const [width, height] of [[1280, 800], [1920, 1080], [380, 800]] as const) {
    await console.setViewportSize({ width, height })
    await expect(ribbon(console, 'Arriving', 'A Caller')).toBeVisible()
    const over = await console.evaluate(() => ({
      x: document.documentElement.scrollWidth - innerWidth,
      y: document.documentElement.scrollHeight - innerHeight,
    }))
    expect(over, `${width}×${height}`).toEqual({ x: 0, y: 0 })
  }
  await console.getByRole('button', { name: 'Answer A Caller With' }).click()
  await expect(ribbon(console, 'In hand', 'A Caller')).toBeVisible()
})

test('Tab goes by Redial to the floor, the arrow keys walk through it, and nothing traps the focus', async ({ console }) => {
  const floorWindow = console.getByRole('button', { name: /^Ines Quillfeather\. .*\b2100, / })
  await expect(console.getByRole('combobox')).toBeFocused()
  await console.keyboard.press('Tab')
  await expect(console.getByRole('button', { name: 'Redial' })).toBeFocused()
  await console.keyboard.press('Tab')
  await expect(floorWindow).toBeFocused()
  await console.keyboard.press('ArrowDown')
  await expect(console.getByRole('button', { name: /^Tomas Arkwell\. .*\b2101, / })).toBeFocused()
  await console.keyboard.press('ArrowRight')
  await expect(console.getByRole('button', { name: /^Tomas Arkwell\. .*\b2101, / })).not.toBeFocused()
  await console.keyboard.press('Home')
  await expect(floorWindow).toBeFocused()
  await console.keyboard.press('Shift+Tab')
  await console.keyboard.press('Shift+Tab')
  await expect(console.getByRole('combobox')).toBeFocused()
  await console.keyboard.press('Tab')
  await console.keyboard.type('lost')
  await expect(console.getByRole('combobox')).toHaveValue('lost')
})
