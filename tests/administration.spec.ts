import type { Page } from '@playwright/test'
import type { Company } from '../core/company/company'
import { alone, expect, name, ribbon, type Stage } from './stage'

const test = alone()

async function administrator(own: Stage, browser: Parameters<Stage['open']>[0]): Promise<Page> {
  const page = await own.open(browser, 'admin')
  await page.goto('/company')
  await expect(page.getByRole('row').nth(3)).toBeVisible()
  return page
}
async function part(page: Page, title: string): Promise<void> {
  await page.getByRole('combobox', { name: 'Which part' }).press('Enter')
  await page.getByRole('option', { name: title, exact: true }).click()
}
const said = (page: Page) => page.getByRole('complementary', { name: 'What is chosen' })

test('somebody joins with an extension and can be called at once; is renamed; leaves, and who comes after them has the number', async ({ own, browser }) => {
  const page = await administrator(own, browser)
  const console = await own.open(browser, 'ines')
  await page.getByRole('button', { name: 'New person…' }).click()
  await said(page).getByLabel('First name').fill('Zephyrine')
  await said(page).getByLabel('Last name', { exact: true }).fill('Quist')
  await said(page).getByLabel(/^Extension/).fill('2105')
  await said(page).getByRole('button', { name: 'Add' }).click()
  await expect(said(page).getByRole('alert')).toContainText('have the same number 2105. Nothing was changed.')
  await said(page).getByLabel(/^Extension/).fill('2988')
  await said(page).getByRole('button', { name: 'Add' }).click()
  await expect(page.getByText('Added.')).toBeVisible()
  await expect(console.getByRole('button', { name: /^Zephyrine Quist\. / })).toBeAttached()
  await name(console, 'Zephyrine Quist')
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', 'Zephyrine Quist')).toBeVisible()
  const telephone = () => Object.values(own.cast.state.company.telephones).find(({ number }) => number === '2988')
  const rings = await own.cast.ringingAt(telephone()!.id)

  // While they are called they are renamed; while they talk they leave: the call goes on.
  await page.getByLabel('Filter by name or number').fill('quist')
  await page.getByRole('button', { name: 'Zephyrine Quist' }).click()
  await said(page).getByLabel('Last name', { exact: true }).fill('Quistgaard')
  await said(page).getByRole('button', { name: 'Save' }).click()
  await expect(ribbon(console, 'In hand', 'Zephyrine Quistgaard')).toBeVisible()
  await own.cast.answer(telephone()!.id, rings)
  await expect(ribbon(console, 'In hand', 'Zephyrine Quistgaard')).toContainText('talking')
  await page.getByRole('button', { name: 'Zephyrine Quistgaard' }).click()
  await said(page).getByRole('button', { name: 'Remove…' }).click()
  await said(page).getByRole('combobox', { name: 'Successor' }).fill('Tomas')
  await page.getByRole('option', { name: /^Tomas/ }).first().click()
  await said(page).getByRole('button', { name: /^Remove Zephyrine/ }).click()
  await expect(page.getByText('Removed.')).toBeVisible()
  await expect.poll(() => own.cast.state.company.people[telephone()?.person ?? '']?.first).toBe('Tomas')
  const talks = [...own.cast.state.calls.values()].flatMap(call => call.connections).find(({ device }) => device === telephone()!.id)
  expect(talks?.state).toBe('connected')

  await page.getByRole('button', { name: 'What was changed' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'Last name: Quist → Quistgaard' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo: Zephyrine Quistgaard, Last name: Quist → Quistgaard' }).click()
  await expect(page.getByText('meanwhile')).toBeVisible()
})

test('of two who change one thing the second sees what the first has changed, and nothing is written over', async ({ own, browser }) => {
  const [one, other] = [await administrator(own, browser), await own.open(browser, 'admin')]
  await other.goto('/company')
  const whose = Object.values(own.cast.state.company.people)[7]!
  for (const page of [one, other]) {
    await page.getByLabel('Filter by name or number').fill(`${whose.first} ${whose.last}`)
    await page.getByRole('button', { name: `${whose.first} ${whose.last}`, exact: true }).click()
  }
  await said(one).getByLabel('Room').fill('Z1')
  await said(one).getByRole('button', { name: 'Save' }).click()
  await expect(one.getByText('Changed, everywhere.')).toBeVisible()
  await said(other).getByLabel('Role').fill('Keeper')
  await said(other).getByRole('button', { name: 'Save' }).click()
  await expect(said(other).getByRole('alert')).toContainText('room is "Z1" now. Nothing was written over')
  await expect.poll(() => own.cast.state.company.people[whose.id]).toMatchObject({ room: 'Z1', role: whose.role })
})

test('a queue in use is not lost with who waits in it; what others need can\'t go; nobody else may', async ({ own, browser }) => {
  const page = await administrator(own, browser)
  await part(page, 'Sites')
  await page.getByRole('row').nth(1).getByRole('button').click()
  await said(page).getByRole('button', { name: 'Remove…' }).click()
  await said(page).getByRole('button', { name: /^Remove / }).last().click()
  await expect(said(page).getByRole('alert')).toContainText('which is no site. Nothing was changed.')

  const console = await own.open(browser, 'ines')
  const call = await own.cast.ring('Waiting Caller')
  await ribbon(console, 'Arriving', 'Waiting Caller').waitFor()
  const { company } = own.cast.state
  const queue = company.groups['queue:freight']!
  await own.cast.answer('t2100', call)
  await own.cast.ask({ service: 'singleStepTransferCall', device: 't2100', call, to: queue.id })
  await expect.poll(() => own.cast.state.calls.get(call)?.connections.some(({ device }) => device === queue.id)).toBe(true)
  const ask = (who: Page, data: object) => who.request.patch('/api/company', { data })
  const users = Object.values(company.lines).filter(({ target }) => target === queue.id).map(line => ({ part: 'lines', id: line.id, value: line }))
  const edit = {
    seen: [...users, { part: 'groups', id: queue.id, value: queue }],
    changes: [
      ...users.map(({ value, ...line }) => ({ ...line, value: { ...value, target: company.settings.operators } })),
      { part: 'groups', id: queue.id, value: null },
    ],
  }
  expect((await ask(console, edit)).status()).toBe(403)
  expect((await console.request.get('/api/company/edits')).status()).toBe(403)
  expect((await ask(page, edit)).status()).toBe(200)
  await expect.poll(() => own.cast.state.company.groups[queue.id]).toBeUndefined()
  // Whoever waited there is with somebody, or with the operators: nowhere is nobody.
  const places = () => {
    const now = own.cast.state.calls.get(call)
    return now?.connections.map(({ device }) => device).filter(device => device !== now.calling)
  }
  await expect.poll(() => places()?.filter(place => place !== queue.id).length).toBeGreaterThan(0)
  await expect.poll(places).not.toContain(queue.id)
  const inborn = { part: 'sites', id: '__proto__' }
  const hostile = { seen: [{ ...inborn, value: null }], changes: [{ ...inborn, value: { id: '__proto__', name: 'x', position: 0 } }] }
  for (const bad of [{ seen: [], changes: edit.changes }, hostile])
    expect((await ask(page, bad)).status()).toBe(422)
})

test('the company goes out as a file, and another one comes in, whole or not at all; undone it is as before', async ({ own, browser }) => {
  const page = await administrator(own, browser)
  const given = await (await page.request.get('/api/company/file')).json() as { company: Company }
  const before = JSON.stringify(own.cast.state.company.slots)
  await page.getByRole('button', { name: 'Company file' }).click()
  const choose = (file: object) => page.getByLabel(/A company file in the place/)
    .setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(file)) })
  await choose({ ...given, company: { ...given.company, sites: {} } })
  await expect(page.getByRole('alert').filter({ hasText: 'Nothing was changed' })).toContainText('which is no site')
  await choose({ ...given, company: 7 })
  await expect(page.getByRole('alert').filter({ hasText: 'company' })).toBeVisible()

  const [one, other] = Object.keys(given.company.slots) as [string, string]
  const numberOf = (slot: string) => given.company.slots[slot]!.number
  // Two that change their numbers between them.
  const slots = { ...given.company.slots, [one]: { id: one, name: '1', number: numberOf(other) }, [other]: { id: other, name: '2', number: numberOf(one) } }
  const person = Object.keys(given.company.people)[0]!
  const people = { ...given.company.people, [person]: { ...given.company.people[person]!, first: 'Renamed' } }
  await choose({ ...given, company: { ...given.company, slots, people } })
  await expect(page.getByRole('row').filter({ hasText: 'Park slots' })).toContainText('2')
  await page.getByRole('button', { name: 'Take other.json over' }).click()
  await expect(page.getByText('other.json is the company now.')).toBeVisible()
  await expect.poll(() => own.cast.state.company.people[person]?.first).toBe('Renamed')
  expect(own.cast.state.company.slots[one]!.number).toBe(given.company.slots[other]!.number)
  await page.goto('/company/changes')
  await page.getByRole('button', { name: /^Undo: / }).first().click()
  await expect(page.getByText('Undone.')).toBeVisible()
  await expect.poll(() => JSON.stringify(own.cast.state.company.slots)).toBe(before)
})

test('public holidays are read in from a calendar beside the week; lines that mean nothing are said', async ({ own, browser }) => {
  const page = await administrator(own, browser)
  await part(page, 'Opening hours')
  await page.getByRole('row').nth(1).getByRole('button').click()
  const year = new Date().getUTCFullYear() + 1
  const event = (date: string, name: string) => ['BEGIN:VEVENT', `UID:${date}`, `DTSTART;VALUE=DATE:${year}${date}`, `SUMMARY:${name}`, 'END:VEVENT']
  const calendar = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//x//EN', ...event('0106', 'Lantern Day'), ...event('0504', 'Regatta'), 'END:VCALENDAR', '']
  const choose = (text: string) => said(page).getByLabel(/Read in public holidays/)
    .setInputFiles({ name: 'h.ics', mimeType: 'text/calendar', buffer: Buffer.from(text) })
  await choose('no calendar')
  await expect(said(page).getByRole('alert')).toBeVisible()
  await choose(calendar.join('\r\n'))
  await expect(said(page).getByLabel('Closed on')).toHaveValue(new RegExp(`${year}-01-06 Lantern Day\\n${year}-05-04 Regatta`))
  // What can't be understood is told, and keeps the form from being sent.
  const week = said(page).getByLabel('The whole week, typed at once')
  await week.fill('Mon 9:00-17:00\nsometimes')
  await expect(said(page).getByRole('alert').filter({ hasText: 'sometimes' })).toContainText('Line 2, “sometimes”: it begins with no day')
  await said(page).getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Changed, everywhere.')).toBeHidden()
  await week.fill('Mon 9:00-17:00')
  await expect(said(page).getByLabel('Monday', { exact: true })).toHaveValue('9:00-17:00')
  await said(page).getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Changed, everywhere.')).toBeVisible()
  const days = () => Object.values(own.cast.state.company.hours).flatMap(({ holidays }) => holidays.map(({ name }) => name))
  await expect.poll(days).toEqual(expect.arrayContaining(['Lantern Day', 'Regatta']))
})

test('people are brought in from a table, seen before, and undone as one', async ({ own, browser }) => {
  const page = await administrator(own, browser)
  await page.getByRole('button', { name: 'From a file…' }).click()
  const { departments, people } = own.cast.state.company
  const [department] = Object.values(departments)
  const rows = [`Ottilie;Marrable;${department!.name};2981`, `Per;Marrable;${department!.name};2105`, 'Nobody;Anywhere;Attic;x2982']
  const text = ['first;last;department;extension', ...rows].join('\n')
  await page.getByLabel(/A table from any program/).setInputFiles({ name: 'joins.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await expect(page.getByText('joins.csv: 1 new, 1 changed, 0 as they are, 1 refused.')).toBeVisible()
  await expect(page.getByRole('row').filter({ hasText: 'Nobody Anywhere' })).toContainText('x2982 is no extension')
  await page.getByRole('button', { name: 'Bring them in' }).click()
  await expect(page.getByText('1 new and 1 changed.')).toBeVisible()
  const named = () => Object.values(own.cast.state.company.people).filter(({ last }) => last === 'Marrable').map(({ first }) => first).sort()
  await expect.poll(named).toEqual(['Ottilie', 'Per'])
  await page.goto('/company/changes')
  await page.getByRole('button', { name: /^Undo: / }).first().click()
  await expect(page.getByText('Undone.')).toBeVisible()
  await expect.poll(named).toEqual([])
  expect(Object.keys(own.cast.state.company.people)).toHaveLength(Object.keys(people).length)
})
