import type { Page } from '@playwright/test'
import { alone, expect, ribbon, test } from './stage'

interface Verdicts { rows: { verdict: string, why: string }[], companies: string[] }

async function choose(page: Page, file: string, text: string | Buffer): Promise<void> {
  await page.getByLabel(/A file of vCards/).setInputFiles({ name: file, mimeType: 'text/plain', buffer: Buffer.from(text as string) })
}
const card = (lines: string[]) => ['BEGIN:VCARD', 'VERSION:3.0', ...lines, 'END:VCARD', ''].join('\r\n')

test('a contact of one\'s own is written down by keyboard, and is seen, named and given out for nobody else', async ({ console, stage, browser }) => {
  const { cast } = stage
  // Dialogs are fetched behind everything else; also where the browser never has an idle moment.
  await console.addInitScript(() => {
    window.requestIdleCallback = () => 0
  })
  await console.goto('/contacts')
  await console.getByRole('button', { name: 'New contact…' }).focus()
  await console.keyboard.press('Enter')
  const dialog = console.getByRole('dialog', { name: 'New contact' })
  await expect(dialog.getByLabel('Name', { exact: true })).toBeFocused()
  await console.keyboard.type('Ottoline Vane')
  await dialog.getByLabel('Number 1', { exact: true }).fill('020 7946 0311')
  await dialog.getByText('For me alone').click()
  await dialog.getByLabel('Category').fill('Singers')
  await dialog.getByLabel('Addresses for text messages').fill('ottoline@vane.example')
  await console.keyboard.press('Control+Enter')
  await expect(dialog).toBeHidden()
  await console.getByRole('textbox', { name: 'Filter by name, company or number' }).fill('vane')
  await expect(console.getByRole('row').filter({ hasText: 'Ottoline Vane' })).toContainText('me')
  await expect(console.getByRole('complementary', { name: 'The chosen contact' })).toContainText('ottoline@vane.example')

  const other = await stage.open(browser, 'tomas')
  const call = await cast.ring(null, { from: '+442079460311' })
  await expect(console.getByRole('region', { name: 'Calls' }).getByText('Ottoline Vane')).toBeVisible()
  await expect(ribbon(other, 'Arriving', '020 7946 0311')).toBeVisible()
  await expect(other.getByText('Ottoline Vane')).toHaveCount(0)
  await cast.hangUp(call)
  for (const which of ['shared', 'own', 'all']) {
    const theirs = await (await other.request.get(`/api/contacts/export?format=vcard4&which=${which}`)).text()
    expect(theirs).not.toContain('Ottoline')
  }
  expect(JSON.stringify(await (await other.request.get('/api/contacts?since=0')).json())).not.toContain('Ottoline')
  expect(await (await console.request.get('/api/contacts/export?format=vcard3&which=own')).text()).toContain('EMAIL:ottoline@vane.example')
  const [{ id, version } = { id: '', version: 0 }] = await stage.sql<{ id: string, version: number }>(
    'select id, version from contact where name = \'Ottoline Vane\'',
  )
  const asked = {
    kind: 'individual', name: 'Mine now', company: null, numbers: [], addresses: [], category: '', private: false, language: '', note: '', readFirst: false,
    mark: 'none',
  }
  expect((await other.request.put(`/api/contacts/${id}`, { data: { ...asked, version } })).status()).toBe(404)
  expect((await other.request.delete(`/api/contacts/${id}?version=${version}`)).status()).toBe(404)
  await other.context().close()
})

test('cards are looked at, brought in and shown at once; again they change nothing, changed they change; all of it is undone', async ({ console, stage }) => {
  const { cast } = stage
  const nell = [
    'UID:nell-1', 'N:Wherrymoor;Nell;;;', 'FN:Nell Wherrymoor', 'ORG:Wherrymoor Nets', 'item1.TEL;TYPE=CELL:07700 900611', 'item1.X-ABLabel:Yard',
    'X-HOBBY:oars',
  ]
  const file = card(nell) + card(['FN:Ketil Wherrymoor', 'TEL:12', 'TEL;TYPE=WORK:020 7946 0612']) + card(['NOTE:nobody']) + card(nell)
  await console.goto('/contacts/import')
  await choose(console, 'yard.vcf', file)
  const summary = console.getByRole('complementary', { name: 'What will be done' })
  await expect(summary.getByRole('heading', { name: '2 new contacts, 0 changed' })).toBeVisible()
  await expect(summary).toContainText('0 unchanged, 2 refused. With them 1 company: Wherrymoor Nets.')
  await expect(console.getByRole('row').filter({ hasText: 'Ketil' })).toContainText('can\'t be called: 12')
  await expect(console.getByRole('row').filter({ hasText: 'Nobody is named' })).toBeVisible()
  await expect(console.getByRole('row').filter({ hasText: 'The same stands at 1 of the file already.' })).toBeVisible()
  await summary.getByRole('button', { name: 'Bring them in' }).click()
  await expect(summary.getByRole('heading', { name: 'Brought in', exact: true })).toBeVisible()

  const call = await cast.ring(null, { from: '+447700900611' })
  await expect(console.getByRole('region', { name: 'Calls' }).getByText('Nell Wherrymoor')).toBeVisible()
  await cast.hangUp(call)
  const out = await (await console.request.get('/api/contacts/export?format=vcard3')).text()
  expect(out).toContain('item1.X-ABLabel:Yard\r\n')
  expect(out).toContain('X-HOBBY:oars\r\n')

  await summary.getByRole('button', { name: 'Undo all of it' }).waitFor()
  await console.getByRole('button', { name: 'Another file' }).click()
  await choose(console, 'yard.vcf', file)
  await expect(summary.getByRole('heading', { name: '0 new contacts, 0 changed' })).toBeVisible()
  await expect(summary).toContainText('2 unchanged, 2 refused')
  await console.getByRole('button', { name: 'Another file' }).click()
  await choose(console, 'renamed.vcf', card(nell.map(line => line.replace('FN:Nell', 'FN:Nelly').replace('900611', '900613'))))
  await expect(console.getByRole('row').filter({ hasText: 'Nelly Wherrymoor' })).toContainText('changed: name, numbers')
  await summary.getByRole('button', { name: 'Bring them in' }).click()
  await expect(summary.getByRole('heading', { name: 'Brought in', exact: true })).toBeVisible()
  const there = () => stage.sql<{ name: string, numbers: string }>(`
    select c.name, string_agg(n.number, ' ' order by n.position) as numbers from contact c left join contact_number n on n.contact = c.id
    where not c.removed and c.name like '%Wherrymoor%' group by c.name order by c.name`)
  expect(await there()).toEqual([
    { name: 'Ketil Wherrymoor', numbers: '+442079460612' }, { name: 'Nelly Wherrymoor', numbers: '+447700900613' }, { name: 'Wherrymoor Nets', numbers: null },
  ])
  await summary.getByRole('button', { name: 'Undo renamed.vcf' }).click()
  await expect(summary).toContainText('Undone: 1 contact as before.')
  expect((await there())[1]).toEqual({ name: 'Nell Wherrymoor', numbers: '+447700900611' })
  await summary.getByRole('button', { name: 'Undo yard.vcf' }).click()
  await expect.poll(there).toEqual([])
})

test('a table is guessed, said otherwise, read with semicolons in Latin-1; whoever has changed since is left when undone', async ({ console, stage }) => {
  await console.goto('/contacts/import')
  const text = 'Nachname;Vorname;Firma;Telefon;Kürzel\r\nØksnes;Åse;Øksnes Tau;020 7946 0621;"a ""b"""\r\nRostrand;Per;;020 7946 0622;c\r\n'
  await choose(console, 'tabelle.csv', Buffer.from(text, 'latin1'))
  const summary = console.getByRole('complementary', { name: 'What will be done' })
  await expect(summary.getByRole('heading', { name: '2 new contacts, 0 changed' })).toBeVisible()
  await expect(console.getByRole('row').filter({ hasText: 'Åse Øksnes' })).toContainText('Øksnes Tau')
  await console.getByRole('combobox', { name: 'What Kürzel holds' }).press('Enter')
  await console.getByRole('option', { name: 'note', exact: true }).click()
  await expect(summary.getByRole('heading', { name: '2 new contacts, 0 changed' })).toBeVisible()
  await summary.getByRole('button', { name: 'Bring them in' }).click()
  await expect(summary.getByRole('heading', { name: 'Brought in', exact: true })).toBeVisible()
  expect(await stage.sql('select note from contact where name = \'Åse Øksnes\'')).toEqual([{ note: 'a "b"' }])
  await stage.sql('update contact set version = version + 1, name = \'Per Changed\' where name = \'Per Rostrand\'')
  await summary.getByRole('button', { name: 'Undo all of it' }).click()
  await expect(summary).toContainText('Undone: 2 contacts as before. Changed since, and left as they are: Per Changed.')
  await stage.sql('update contact set removed = true where name = \'Per Changed\'')
})

alone()('thousands are stopped in the middle and gone on with, also when the server dies in it: everybody once', async ({ own, browser }) => {
  test.setTimeout(120_000)
  const page = await own.open(browser, 'ines')
  await page.goto('/contacts/import')
  const rows = Array.from({ length: 1_200 }, (_, at) => `Carter ${at},Cart Firm ${at % 40},07700 9${String(at).padStart(5, '0')}`)
  await choose(page, 'many.csv', ['name,company,mobile', ...rows, ''].join('\n'))
  const summary = page.getByRole('complementary', { name: 'What will be done' })
  await expect(summary.getByRole('heading', { name: '1200 new contacts, 0 changed' })).toBeVisible()
  const count = async () => Number((await own.sql<{ count: string }>('select count(*) from contact where not removed and name like \'Carter %\''))[0]!.count)
  await summary.getByRole('button', { name: 'Bring them in' }).click()
  await expect.poll(count).toBeGreaterThan(0)
  own.stack.server!.kill('SIGKILL')
  await expect(page.getByRole('button', { name: 'Go on' })).toBeEnabled()
  await own.stack.startServer()
  await summary.getByRole('button', { name: 'Go on' }).click()
  await expect(summary.getByRole('heading', { name: 'Brought in', exact: true })).toBeVisible({ timeout: 60_000 })
  expect(await count()).toBe(1_200)
  expect(Number((await own.sql<{ count: string }>('select count(*) from contact where not removed and name like \'Cart Firm %\''))[0]!.count)).toBe(40)
  await summary.getByRole('button', { name: 'Undo all of it' }).click()
  await expect(summary).toContainText('Undone: 1240 contacts as before.')
  expect(await count()).toBe(0)
})

test('what is sent as a contact from a file is checked row by row', async ({ console }) => {
  const row = { uid: null, kind: 'individual', name: 'Row', company: null, category: '', numbers: [], addresses: [], language: '', note: '', card: [] }
  const ask = (more: object) => console.request.post('/api/contacts/imports/check', { data: { private: false, rows: [{ ...row, ...more }] } })
  const check = async (more: object) => await (await ask(more)).json() as Verdicts
  expect((await check({ name: '\u200B' })).rows[0]).toEqual({ verdict: 'refused', why: 'Nobody is named.' })
  expect((await check({ numbers: [{ number: '12', kind: 'work' }] })).rows[0]).toEqual({ verdict: 'refused', why: '"12" is no number that can be called.' })
  expect((await check({ card: ['NOTE:\0'], name: '<b>x</b>' })).rows[0]!.verdict).toBe('new')
  const huge = await ask({ card: ['A'.repeat(1_700_000)] })
  expect([huge.status(), (await huge.json() as { message: string }).message]).toEqual([422, 'card is too large: leave its pictures out.'])
})

test('many parts of a file at once are carried out one after the other, and everybody else goes on meanwhile', async ({ console, stage }) => {
  const { id } = await (await console.request.post('/api/contacts/imports', { data: { file: 'many.vcf', private: false } })).json() as { id: string }
  const row = (index: number) => ({
    uid: null, kind: 'individual', name: `Many ${index}`, company: null, category: '', numbers: [], addresses: [], language: '', note: '', card: [],
  })
  const parts = Array.from({ length: 24 }, (_, part) => console.request.put(`/api/contacts/imports/${id}/rows`, {
    data: { from: part * 50, rows: Array.from({ length: 50 }, (_, index) => row(part * 50 + index)) },
  }))
  for (const path of ['/api/messages', '/api/calls', '/api/shift']) expect((await console.request.get(path)).status(), path).toBe(200)
  expect((await console.request.post('/api/session', { data: { signIn: 'ines', password: 'not this one' } })).status()).toBe(401)
  expect((await Promise.all(parts)).map(answer => answer.status())).toEqual(parts.map(() => 200))
  expect(await stage.sql('select 1 from contact where name like \'Many %\' and not removed')).toHaveLength(1_200)
})
