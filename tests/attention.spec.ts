import { buildStage, expect, ribbon, type Stage, test as base } from './stage'

/** The exchange's clock is invented here: a minute on hold passes at once. */
const test = base.extend<{ own: Stage }>({
  own: async ({}, use) => { // eslint-disable-line no-empty-pattern
    const { stage, strike } = await buildStage({ exchangeArgs: ['--clock', '2031-05-12T09:00:00Z'] })
    await use(stage)
    await strike()
  },
})

test('a held caller asks for attention past the promise: by looks, then by a notification when the window is not in front', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await page.addInitScript(() => {
    const shown: string[] = []
    Object.assign(window, {
      shown,
      Notification: Object.assign(function (title: string) {
        shown.push(title)
      }, { permission: 'granted' }),
    })
    Object.defineProperty(document, 'visibilityState', { get: () => 'hidden' })
  })
  await page.reload()
  await expect(page.getByRole('combobox', { name: 'Who is it for?' })).toBeFocused()
  await own.cast.ring('Patient Caller')
  await expect(ribbon(page, 'Arriving', 'Patient Caller')).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(ribbon(page, 'In hand', 'Patient Caller')).toContainText('talking')
  await page.keyboard.press('Space')
  const held = ribbon(page, 'In hand', 'Patient Caller')
  await expect(held).toContainText('on hold')
  await expect(held).toHaveClass(/calm/)
  own.cast.advance(65_000)
  await expect(held).toHaveClass(/late/)
  const shown = () => page.evaluate(() => (window as unknown as { shown: string[] }).shown)
  expect(await shown()).not.toContain('Patient Caller is still on hold')
  own.cast.advance(45_000)
  await expect.poll(shown).toContain('Patient Caller is still on hold')
})

test('what a caller leaves in a line\'s voicemail is read by the operators and by nobody else', async ({ own, browser, request }) => {
  const page = await own.open(browser, 'ines')
  const call = await own.cast.ring('Speaking Caller')
  await page.getByRole('button', { name: 'More for Speaking Caller' }).click()
  await page.getByRole('menuitem', { name: 'To voicemail' }).click()
  await expect(ribbon(page, 'Arriving', 'Speaking Caller')).toBeHidden()
  await own.cast.say(call, 'It is about the lamps. Please call me back.')
  own.cast.advance(12_000)
  await own.cast.hangUp(call)
  await page.getByRole('link', { name: 'Messages, 1 unread' }).click()
  const message = page.getByRole('region', { name: 'Received' }).getByRole('listitem').filter({ hasText: 'Speaking Caller' })
  await expect(message).toContainText('It is about the lamps. Please call me back.')
  await expect(message).toContainText('Voicemail of General line, 12 seconds.')
  await message.getByRole('button', { name: 'Mark as read: the message of Speaking Caller' }).click()
  await expect(message).toContainText('Read ')

  expect((await request.post(`${own.url}/api/session`, { data: { signIn: 'staff', password: 'hand-me-over' } })).status()).toBe(200)
  for (const query of ['', '?handset=t2150']) expect(await (await request.get(`${own.url}/api/messages${query}`)).json()).toEqual({ received: [], written: [] })
})

test('a first connection that is under way is not a lost one; one that is lost says so', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  let feed: { close: () => Promise<void> } | null = null
  await page.routeWebSocket(/\/api\/feed/, (socket) => {
    feed = socket
  })
  await page.goto(`${own.url}/log`)
  await expect.poll(() => feed).not.toBeNull()
  await expect(page.getByText('Loading all extensions…')).toBeVisible()
  await expect(page.getByText('No connection to the server')).toBeHidden()
  await feed!.close()
  await expect(page.getByRole('alert')).toContainText('No connection to the server')
})
