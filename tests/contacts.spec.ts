import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { test as base } from '@playwright/test'
import { alone, buildStage, expect, name, ribbon, test } from './stage'

test('a caller is written down by keyboard alone, is known at once, is not written down twice; who must be read first is', async ({ console, stage }) => {
  const { cast } = stage
  await stage.sql('delete from contact_number where number = \'+447700900877\'')
  const call = await cast.ring(null, { from: '+447700900877' })
  await ribbon(console, 'Arriving', '07700 900877').waitFor()
  await expect(console.getByRole('complementary', { name: 'The call in question' })).toContainText('United Kingdom')
  await console.keyboard.press('_')
  const dialog = console.getByRole('dialog', { name: 'Save caller' })
  await expect(dialog.getByLabel('Name', { exact: true })).toBeFocused()
  await console.keyboard.press('Control+Enter')
  await expect(dialog.getByRole('alert').first()).toContainText('Name')
  await console.keyboard.type('Ottoline Quarrel')
  await dialog.getByText('Person of a company').click()
  await dialog.getByRole('combobox', { name: 'Company', exact: true }).fill('Quarrel & Daughters')
  await dialog.getByLabel('Note', { exact: true }).fill('Speaks softly: <b>wait</b> for her.')
  await dialog.getByText('Read the note before answering').click()
  await dialog.getByText('Important').click()
  await console.keyboard.press('Control+Enter')
  await expect(dialog).toBeHidden()
  const known = ribbon(console, 'Arriving', 'Ottoline Quarrel')
  await expect(known).toContainText('Speaks softly: <b>wait</b> for her.')
  await expect(known).toContainText('Quarrel & Daughters')
  await expect(known).toContainText('★')
  await cast.hangUp(call)

  // Another number, the same name: the number goes to who is known.
  const again = await cast.ring('Ottoline Quarrel', { from: '+442079460888' })
  await ribbon(console, 'Arriving', '020 7946 0888').waitFor()
  await console.keyboard.press('_')
  await dialog.getByRole('list', { name: 'Known already' }).getByRole('button', { name: 'Add the number there' }).click()
  await expect(dialog).toBeHidden()
  await expect(ribbon(console, 'Arriving', '020 7946 0888')).toContainText('Quarrel & Daughters')
  expect(await stage.sql('select number from contact_number join contact on id = contact where name = \'Ottoline Quarrel\' order by number'))
    .toEqual([{ number: '+442079460888' }, { number: '+447700900877' }])
  await cast.hangUp(again)

  // Found by the one search, and called from there.
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await name(console, 'Ottoline Quarrel')
  await expect(console.getByText('calls Ottoline Quarrel')).toBeVisible()
  await console.keyboard.press('Escape')
})

test('two change one contact: the second is told; staff members are told nothing of anybody outside', async ({ console, stage, browser }) => {
  const contact = {
    kind: 'individual', name: 'Two Hands', company: null, numbers: [{ number: '020 7946 0777', kind: 'work' }], addresses: [], category: '', private: false,
    language: '', note: '', readFirst: false,
    mark: 'none',
  }
  const { id, version } = await (await console.request.post('/api/contacts', { data: contact })).json() as { id: string, version: number }
  const change = (note: string) => console.request.put(`/api/contacts/${id}`, { data: { ...contact, note, version } })
  expect((await change('the first')).status()).toBe(200)
  const second = await change('the second')
  expect(second.status()).toBe(409)
  expect((await second.json() as { message: string }).message).toContain('Ines Quillfeather has changed this contact meanwhile')
  const [short, words, twice] = ['12', 'call me', '+442079460777'].map(number => ({ number, kind: 'work' }))
  for (const numbers of [[short], [words], [...contact.numbers, twice]]) {
    const refused = await console.request.post('/api/contacts', { data: { ...contact, numbers } })
    expect(refused.status()).toBe(422)
    expect((await refused.json() as { message: string }).message).toMatch(/^number.*[a-z]{4,}.*\.$/)
  }
  const staff = await stage.open(browser, 'staff')
  for (const path of ['/api/contacts', '/api/callers?number=%2B442079460777']) expect((await staff.request.get(path)).status()).toBe(403)
  await staff.context().close()
  expect((await console.request.delete(`/api/contacts/${id}`, { params: { version: version + 1 } })).status()).toBe(200)
})

const own = alone({ exchangeArgs: ['--clock', '2031-05-12T09:00:00Z'] })

own('where a call ended is learned at once, and the next is passed on there with one key', async ({ own: stage, browser }) => {
  const { cast } = stage
  const console = await stage.open(browser, 'ines')
  const clerk = cast.state.company.telephones.t2139!
  const from = '+442079460555'
  const first = await cast.ring('Learned Caller', { from })
  await ribbon(console, 'Arriving', 'Learned Caller').waitFor()
  await console.keyboard.press('Enter')
  await ribbon(console, 'In hand', 'Learned Caller').waitFor()
  await console.keyboard.press('ArrowRight')
  await expect(ribbon(console, 'In hand', 'Learned Caller')).toContainText('talking')
  await name(console, clerk.name)
  await console.keyboard.press('Enter')
  await ribbon(console, 'Passed on', 'Learned Caller').waitFor()
  await cast.answer(clerk.id, first)
  await expect.poll(() => cast.state.calls.get(first)?.connections.some(({ device, state }) => device === clerk.id && state === 'connected')).toBe(true)
  cast.advance(20_000)
  await cast.hangUp(first)
  await expect.poll(async () => (await stage.sql('select 1 from conversation')).length).toBe(1)

  const second = await cast.ring('Learned Caller', { from })
  await ribbon(console, 'Arriving', 'Learned Caller').waitFor()
  const likely = console.getByRole('list', { name: 'Probably for' })
  await expect(likely).toContainText(`1 of 1 calls from 020 7946 0555 went to ${clerk.name}`)
  await console.keyboard.press('ArrowRight')
  await expect(ribbon(console, 'Arriving', 'Learned Caller')).toBeVisible()
  await console.keyboard.press('Enter')
  await expect(likely.getByRole('button', { name: `Pass on to ${clerk.name}` })).toBeVisible()
  await console.keyboard.press('ArrowRight')
  await expect(ribbon(console, 'Passed on', `rings at ${clerk.name}`)).toContainText('Learned Caller')
  await expect.poll(() => cast.state.calls.get(second)?.connections.some(({ device, state }) => device === clerk.id && state === 'alerting')).toBe(true)
  await cast.clearTheStage()
})

test('whom the caller asks for stands on the first key, with their own words', async ({ console, stage }) => {
  const { cast } = stage
  const { id, name: asked } = cast.state.company.telephones.t2120!
  const call = await cast.ring('Asking Caller', { from: '+447700900988' })
  await ribbon(console, 'Arriving', 'Asking Caller').waitFor()
  await console.keyboard.press('Enter')
  await ribbon(console, 'In hand', 'Asking Caller').waitFor()
  const likely = console.getByRole('list', { name: 'Probably for' })
  await cast.say(call, 'Good morning. I am calling about a lost umbrella.')
  await expect(likely.getByRole('button').first()).toHaveAccessibleName(/^Pass on to Lost property.*: said: a lost umbrella \(right arrow\)$/)
  await cast.say(call, `No, wait. Could I speak to ${asked}?`)
  await expect(likely.getByRole('button').first()).toHaveAccessibleName(`Pass on to ${asked}: said: ${asked} (right arrow)`)
  await expect(likely).toContainText('said: a lost umbrella')
  const aloud = console.locator('[aria-live]').filter({ hasText: `“${asked}”: probably for ${asked}, right arrow` })
  await expect(aloud.first()).toBeAttached()
  await expect(async () => {
    await console.keyboard.press('ArrowRight')
    await expect(ribbon(console, 'Passed on', `rings at ${asked}`)).toContainText('Asking Caller', { timeout: 1_000 })
  }).toPass()
  expect(cast.state.calls.get(call)?.connections.some(({ device, state }) => device === id && state === 'alerting')).toBe(true)
  await cast.clearTheStage()
})

base('the customer system\'s word stands on the card while it rings; one that is slow or down holds no call up, and says so', async ({ browser }) => {
  let slow = false
  const system = createServer((request, response) => {
    if (slow) return
    const customer = {
      name: 'Cormorant <b>Supplies</b>', reference: 'C-77', lines: [{ label: 'Open question', text: 'Where is crate 9?' }], link: 'https://orders.example/C-77',
    }
    response.end(JSON.stringify({ customer: request.headers.authorization === 'Bearer told' && request.url?.endsWith('0977') ? customer : null }))
  })
  await new Promise<void>(resolve => system.listen(0, '127.0.0.1', resolve))
  const address = `http://127.0.0.1:${(system.address() as AddressInfo).port}/customers`
  const { stage, strike } = await buildStage({ serverEnv: { NUXT_CUSTOMER_ADDRESS: address, NUXT_CUSTOMER_NAME: 'Orders', NUXT_CUSTOMER_TOKEN: 'told' } })
  try {
    const console = await stage.open(browser, 'ines')
    const first = await stage.cast.ring(null, { from: '+447700900977' })
    const word = console.getByRole('region', { name: 'From Orders' })
    await expect(word).toContainText('Orders: Cormorant <b>Supplies</b> C-77')
    await expect(word).toContainText('Where is crate 9?')
    await expect(word.getByRole('link', { name: 'Open C-77 there' })).toHaveAttribute('rel', 'noopener noreferrer')
    await stage.cast.hangUp(first)

    slow = true
    await stage.cast.ring('Patient Caller')
    await ribbon(console, 'Arriving', 'Patient Caller').waitFor()
    await console.getByRole('button', { name: /^Answer Patient Caller/ }).first().click()
    await ribbon(console, 'In hand', 'Patient Caller').waitFor()
    await expect(console.getByText('Orders did not answer in time.')).toBeVisible()
    const admin = await stage.open(browser, 'admin')
    await admin.goto('/connections')
    await admin.getByRole('button', { name: 'Orders', exact: true }).click()
    await expect(admin.getByText('Orders did not answer in time.')).toBeVisible()
    slow = false
    await admin.getByRole('button', { name: 'Try Orders now' }).click()
    await expect(admin.getByRole('row').filter({ hasText: 'Orders' })).toContainText('well')
  }
  finally {
    await strike()
    system.closeAllConnections()
    system.close()
  }
})
