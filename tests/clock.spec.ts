import { alone, expect, name, signIn } from './stage'

/** There is one clock, that of the house, wherever somebody looks from: here it is three in the afternoon, and there it is tomorrow already. */
const test = alone({ exchangeArgs: ['--clock', '2031-05-12T14:00:00Z'] })

test('who looks from the other side of the world sees the times of the house, and means them', async ({ own, browser }) => {
  const { cast } = own
  cast.present(['t2101'])
  const call = await cast.ring('Ada Quill', { from: '+447700900111' })
  await cast.answer('t2101', call)
  cast.advance(65_000)
  await cast.leave('t2101', call)
  const context = await browser.newContext({ baseURL: own.url, viewport: { width: 1280, height: 800 }, timezoneId: 'Pacific/Auckland' })
  const page = await context.newPage()
  await signIn(page, own.url, 'bryony')

  await page.getByRole('link', { name: 'Call log' }).click()
  const row = page.getByRole('row').filter({ hasText: 'Ada Quill' })
  await expect(row.getByRole('cell').first()).toHaveText(/^15:0\d:\d\d$/)
  await row.getByRole('button').click()
  await expect(page.getByText(/^Monday, 12 May 2031, 15:0\d:\d\d$/)).toBeVisible()

  // A report opens on today, which is the house's.
  await page.getByRole('link', { name: 'Reports', exact: true }).click()
  await expect(page.getByText(/^1 call, most from 15:00 to 15:30/)).toBeVisible()

  // A time that is typed is one of the house, too.
  await page.getByRole('link', { name: 'Console', exact: true }).click()
  await expect(page.getByRole('combobox', { name: 'Who is it for?' })).toBeFocused()
  const colleague = cast.state.company.people.p2110!
  await name(page, `${colleague.first} ${colleague.last}`)
  await page.keyboard.press('Shift+F8')
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('textbox', { name: /Until/ })).toHaveValue(/^16:0\d$/)
  await dialog.getByRole('textbox', { name: /Until/ }).fill('17:30')
  await page.keyboard.press('Enter')
  await expect(dialog).toBeHidden()
  await expect.poll(() => cast.state.devices.get('t2110')?.doNotDisturb).toBe(true)
  await context.close()
})
