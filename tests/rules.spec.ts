import { phrase } from '../words/phrase'
import { alone, enter, expect } from './stage'

const test = alone()

test('a new account signs in with the password shown once; whose it is and what its role may do are decided on the page, and hold at once',
  async ({ own, browser }) => {
    const admin = await own.open(browser, 'admin')
    await admin.goto('/accounts')
    const pane = admin.getByRole('complementary', { name: 'A new account, and the rules' })
    await pane.getByLabel('Sign-in name').fill('Nova Night')
    await pane.getByRole('button', { name: 'Make the account' }).click()
    await expect(pane.getByText('Sign-in name has 2 to 60 letters, digits or . _ @ -, and no spaces.')).toBeVisible()
    await pane.getByLabel('Sign-in name').fill('ines')
    await pane.getByLabel('Name', { exact: true }).fill('Nova Night')
    await pane.getByRole('button', { name: 'Make the account' }).click()
    await expect(pane.getByText('Somebody signs in as ines already.')).toBeVisible()
    await pane.getByLabel('Sign-in name').fill('Nova')
    await pane.getByRole('button', { name: 'Make the account' }).click()
    const password = await admin.getByRole('status').locator('code').textContent()
    const row = admin.getByRole('row').filter({ has: admin.getByRole('combobox', { name: 'Who nova is' }) })
    await expect(row).toContainText('Nova Night')

    const page = await browser.newPage({ baseURL: own.url })
    await enter(page, own.url, 'nova')
    await expect(page.getByRole('alert')).toBeVisible()
    await page.getByLabel('Password').fill(password!)
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.getByRole('link', { name: 'Contacts' }).click()
    await expect(page.getByRole('button', { name: 'Bring in…' })).toBeVisible()
    const contact = {
      kind: 'individual', name: 'Nova knows', company: null, numbers: [], addresses: [], category: '', private: false, language: '', note: '',
      readFirst: false, mark: 'none',
    }
    const shared = await page.request.post('/api/contacts', { data: contact })
    expect(shared.status()).toBe(200)
    const { id, version } = await shared.json() as { id: string, version: number }

    // The rules change while she is there.
    await pane.getByRole('checkbox', { name: 'Bring contacts in, give them out: operator' }).locator('..').click()
    await pane.getByRole('checkbox', { name: 'Change contacts that all see: operator' }).locator('..').click()
    await expect(pane.getByRole('checkbox', { name: 'Keep accounts and these rules: administrator' })).toBeDisabled()
    await pane.getByLabel('Characters of a password, at least').fill('20')
    await pane.getByRole('button', { name: 'Put in force' }).click()
    await expect(page.getByRole('button', { name: 'Bring in…' })).toHaveCount(0)
    for (const asked of [
      page.request.get('/api/contacts/export?format=csv&which=all'), page.request.post('/api/contacts', { data: contact }),
      page.request.put(`/api/contacts/${id}`, { data: { ...contact, version } }), page.request.delete(`/api/contacts/${id}?version=${version}`),
      page.request.get('/api/house-rules'), page.request.post('/api/accounts', { data: { signIn: 'friend', role: 'administrator', person: null, name: 'F' } }),
    ]) expect((await asked).status()).toBe(403)
    const own1 = await page.request.post('/api/contacts', { data: { ...contact, private: true } })
    expect(own1.status()).toBe(200)
    const mine = await own1.json() as { id: string, version: number }
    const sharing = await page.request.put(`/api/contacts/${mine.id}`, { data: { ...contact, private: false, version: mine.version } })
    expect(sharing.status()).toBe(403)
    const short = await page.request.post('/api/password', { data: { current: password, wanted: 'only fifteen ch' } })
    expect([short.status(), (await short.json() as { message: string }).message]).toEqual([422, expect.stringContaining('at least 20 characters')])
    await page.getByRole('button', { name: 'New contact…' }).click()
    await expect(page.getByRole('checkbox', { name: /^For me alone/ })).toBeDisabled()
    await expect(page.getByRole('checkbox', { name: /^For me alone/ })).toBeChecked()
    await page.getByRole('button', { name: 'Cancel' }).click()

    // Two administrators: who saw an older version changes nothing; nobody can shut administrators out.
    const rules = await (await admin.request.get('/api/house-rules')).json() as { version: number, may: Record<string, string[]> }
    const late = await admin.request.put('/api/house-rules', { data: { ...rules, version: rules.version - 1 } })
    expect(late.status()).toBe(409)
    const out = await admin.request.put('/api/house-rules', { data: { ...rules, may: { operator: ['keepAccounts'], supervisor: [], administrator: [] } } })
    expect((await out.json() as typeof rules).may).toEqual({ operator: [], supervisor: [], administrator: ['runCompany', 'keepAccounts'] })

    await expect(admin.getByRole('row').filter({ hasText: 'characters of a password' })).toContainText('1220')
    await expect(admin.getByRole('row').filter({ hasText: 'new account' })).toContainText('Nova Night, operator')

    // Whose account it is.
    const person = own.cast.state.company.people.p2110!
    await admin.getByRole('combobox', { name: 'Who nova is' }).click()
    await admin.getByRole('combobox', { name: 'Who nova is' }).fill(person.last)
    await admin.getByRole('option', { name: new RegExp(`^${person.first} ${person.last}`) }).click()
    await expect(row).toContainText('2110')
    await expect(page.getByText(`${person.first} ${person.last} · 2110`)).toBeVisible()
    await page.close()
  })

test('greetings follow the caller\'s language, and codes of the list are the only ones when it is so decided', async ({ own, browser }) => {
  const admin = await own.open(browser, 'admin')
  await admin.goto('/company')
  const part = async (name: string) => {
    await admin.getByRole('combobox', { name: 'Which part' }).press('Enter')
    await admin.getByRole('option', { name, exact: true }).click()
  }
  await part('Lines')
  await admin.getByRole('button', { name: 'Freight line' }).click()
  await admin.getByLabel('Said instead, by time and language').fill('Welsh: Bore da, Merrowby\n26:00 no such hour')
  await expect(admin.getByText('Line 2, “26:00 no such hour”: 26:00 is no time of day.')).toBeVisible()
  await admin.getByLabel('Said instead, by time and language').fill('Welsh: Bore da, Merrowby')
  await admin.getByRole('button', { name: 'Save' }).click()
  await expect.poll(() => own.cast.state.company.lines.freight!.greetings).toEqual([{ language: 'Welsh', from: 0, text: 'Bore da, Merrowby' }])
  await part('Account codes')
  await expect(admin.getByRole('button', { name: 'Groups and charters' })).toBeVisible()
  await part('Settings')
  await admin.getByText('Only account codes of the list').click()
  await admin.getByRole('button', { name: 'Save' }).click()
  await expect.poll(() => own.cast.state.company.settings.listedCodesOnly).toBe(true)

  const console = await own.open(browser, 'ines')
  const caller = { kind: 'individual', company: null, addresses: [], category: '', private: false, note: '', readFirst: false, mark: 'none' }
  const saved = await console.request.post('/api/contacts', {
    data: { ...caller, name: 'Gwen Cymraes', language: 'Welsh', numbers: [{ number: '+442079460555', kind: 'work' }] },
  })
  expect(saved.status()).toBe(200)
  await own.cast.ring(null, { from: '+442079460555', to: '+441632960010' })
  await console.getByRole('button', { name: /^Answer Gwen Cymraes/ }).first().click()
  await expect(console.getByText('Bore da, Merrowby').first()).toBeVisible()

  const call = (account: string) => own.cast.attempt({ service: 'makeCall', device: 't2130', number: '020 7946 0123', account })
  expect(await call('Z-1')).toMatchObject({ refusal: { code: 'unknownAccount', why: phrase('refusals.thereIsNoAccountCode', { typed: 'Z-1' }) } })
  expect(await call('k-114')).not.toHaveProperty('refusal')
})
