import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { APIResponse } from '@playwright/test'
import { readContactFile } from '../core/formats/contact-file'
import { BookServer } from '../demo/book-server'
import { alone, expect, name, ribbon } from './stage'

/** The address book of another house, of which the server has been told. */
const book = new BookServer('pilots')
const office = createServer((request, response) => void book.answer(request, response).then(taken => taken || response.writeHead(404).end()))
await new Promise<void>(resolve => office.listen(0, '127.0.0.1', resolve))
const origin = `http://127.0.0.1:${(office.address() as AddressInfo).port}`
const test = alone({ serverEnv: { NUXT_CALENDAR_ORIGINS: origin } })
test.afterAll(() => office.close())

const card = (uid: string, ...lines: string[]) => ['BEGIN:VCARD', 'VERSION:4.0', `UID:${uid}`, ...lines, 'END:VCARD', ''].join('\r\n')

test('an address book of another server: found, said who calls, changed there alone, followed, and gone when it is left', async ({ own, browser }) => {
  book.account = { user: 'mer', password: 'ry' }
  book.put('a.vcf', card('a', 'FN:Oda Bellweather', 'ORG:Pilots of the Sound', 'TEL;TYPE=work:+44 117 496 0801'))
  book.put('b.vcf', card('b', 'FN:Mallow <b>Fenn</b>', 'ORG:Pilots of the Sound', 'TEL:+44 117 496 0802', `NOTE:${'n'.repeat(1_001)}`))
  book.put('c.vcf', card('c', 'NOTE:nobody'))
  const admin = await own.open(browser, 'admin')
  await admin.goto('/connections')
  const pane = admin.getByRole('complementary', { name: 'The chosen connection, and a new address book' })
  await pane.getByLabel('Name', { exact: true }).fill('Pilots')
  await pane.getByLabel('Address', { exact: true }).fill('http://10.0.0.1/')
  await pane.getByLabel('User name there, if it asks').fill('mer')
  await pane.getByLabel('Password there').fill('wrong')
  const add = pane.getByRole('button', { name: 'Read it from now on' })
  await add.click()
  await expect(pane.getByText('The address lies in our own network')).toBeVisible()
  await pane.getByLabel('Address', { exact: true }).fill(origin)
  await add.click()
  await expect(pane.getByText('The user name or the password is not right.')).toBeVisible()
  await pane.getByLabel('Password there').fill('ry')
  await pane.getByLabel('Password there').press('Enter')
  const row = admin.getByRole('row').filter({ hasText: 'Pilots' })
  await expect(row).toContainText('3 contacts; 1 card without a name; 1 not kept whole')
  await expect(pane.getByRole('listitem')).toHaveText('Mallow <b>Fenn</b>: the note after 1000 letters')
  expect(JSON.stringify(await own.sql('select * from address_book'))).not.toContain('"ry"')

  const console = await own.open(browser, 'ines')
  const call = await own.cast.ring(null, { from: '+441174960801' })
  await expect(ribbon(console, 'Arriving', 'Oda Bellweather')).toBeVisible()
  await own.cast.hangUp(call)
  await name(console, 'Bellweather')
  await expect(console.getByText('Contact · Pilots of the Sound · Pilots')).toBeVisible()
  await console.goto('/contacts')
  await console.getByRole('button', { name: 'Mallow <b>Fenn</b>' }).click()
  const chosen = console.getByRole('complementary', { name: 'The chosen contact' })
  await expect(chosen).toContainText('Pilots, changed there alone')
  await expect(chosen.getByRole('button', { name: 'Edit…' })).toHaveCount(0)
  const { changed } = await (await console.request.get('/api/contacts?since=0')).json() as { changed: { id: string, name: string, version: number }[] }
  const oda = changed.find(one => one.name === 'Oda Bellweather')!
  const refused = await console.request.delete(`/api/contacts/${oda.id}?version=${oda.version}`)
  expect([refused.status(), (await refused.json() as { message: string }).message]).toEqual(
    [409, 'Oda Bellweather comes from the address book Pilots, and is changed there. Nothing was changed.'],
  )

  // Somebody of our own belongs to a company of the book.
  const pilots = changed.find(one => one.name === 'Pilots of the Sound')!
  const { id } = await (await console.request.post('/api/contacts', { data: {
    kind: 'person', name: 'Wick Amberly', company: pilots.id, numbers: [{ number: '0117 496 0803', kind: 'work' }], addresses: [], category: '', private: false,
    language: '', note: 'First line.\nSecond line.', readFirst: false, mark: 'none',
  } })).json() as { id: string }
  // What is given out and brought in again makes nobody a second time, and changes nobody.
  for (const format of ['vcard3', 'vcard4', 'csv']) {
    const file = await (await admin.request.get(`/api/contacts/export?format=${format}&which=all`)).body()
    const read = readContactFile(file, { country: 'GB', longestInside: 5 })
    if ('fault' in read) throw new Error(read.fault.key)
    const rows = read.rows.map(({ said }) => said!)
    expect(rows.length).toBeGreaterThan(50)
    const verdicts = []
    for (let at = 0; at < rows.length; at += 100) {
      const answer = await admin.request.post('/api/contacts/imports/check', { data: { private: false, rows: rows.slice(at, at + 100) } })
      const { rows: judged } = await answer.json() as { rows: { verdict: string, why: string }[] }
      verdicts.push(...judged.map(({ verdict, why }, index) => [rows[at + index]!.name, verdict, why]))
    }
    expect(verdicts.filter(([, verdict]) => verdict !== 'unchanged'), format).toEqual([])
    const [, ...judged] = verdicts.find(([name]) => name === 'Oda Bellweather')!
    expect(judged).toEqual(['unchanged', 'is in the address book Pilots, and is changed there'])
  }

  book.put('a.vcf', card('a', 'FN:Oda Bellweather-Skarne', 'ORG:Pilots of the Sound', 'TEL;TYPE=work:+44 117 496 0801'))
  book.remove('b.vcf')
  book.forget()
  await admin.getByRole('button', { name: 'Try Pilots now' }).click()
  await expect(row).toContainText('2 contacts')
  await console.getByRole('textbox', { name: 'Filter by name, company or number' }).fill('bellweather')
  await expect(console.getByRole('button', { name: 'Oda Bellweather-Skarne' })).toBeVisible()

  book.account = { user: 'mer', password: 'changed' }
  await admin.getByRole('button', { name: 'Try Pilots now' }).click()
  await expect(row).toContainText('fails')
  await row.getByRole('button', { name: 'Pilots', exact: true }).click()
  await expect(pane.getByText('The user name or the password is not right.')).toBeVisible()
  await expect(console.getByRole('button', { name: 'Oda Bellweather-Skarne' })).toBeVisible()

  await pane.getByRole('button', { name: 'Read it no more, and let its contacts go' }).click()
  await expect(row).toHaveCount(0)
  await expect(console.getByRole('button', { name: 'Oda Bellweather-Skarne' })).toHaveCount(0)
  await console.getByRole('textbox', { name: 'Filter by name, company or number' }).fill('amberly')
  await console.getByRole('button', { name: 'Wick Amberly' }).click()
  await expect(chosen).toContainText('Pilots of the Sound')
  await expect(chosen.getByText('First line.')).toHaveText('First line.\nSecond line.', { useInnerText: true })
  expect(await own.sql(`select c.name, k.name as company, k.book from contact c join contact k on k.id = c.company where c.id = '${id}'`))
    .toEqual([{ name: 'Wick Amberly', company: 'Pilots of the Sound', book: null }])
})

test('the exchange is tried at once, and says why it is not there', async ({ own, browser }) => {
  const admin = await own.open(browser, 'admin')
  await admin.goto('/connections')
  const row = admin.getByRole('row').filter({ hasText: 'Telephone exchange' })
  await expect(row).toContainText('well')
  own.stack.exchange!.kill('SIGKILL')
  await admin.getByRole('button', { name: 'Try Telephone exchange now' }).click()
  await expect(row).toContainText('fails')
  await row.getByRole('button', { name: 'Telephone exchange', exact: true }).click()
  await expect(admin.getByRole('complementary')).toContainText('nothing answers there')
})

test('whatever is put, renamed, moved to another firm and removed there is so here, however little the other server remembers', async ({ own, browser }) => {
  const admin = await own.open(browser, 'admin')
  let seed = 20_261
  const chance = (below: number) => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    return Math.floor(seed / 65_536) % below
  }
  /** Somebody who asks for so much so quickly is told to wait a little. */
  const asked = async (ask: () => Promise<APIResponse>): Promise<unknown> => {
    let answer: unknown
    await expect(async () => {
      const response = await ask()
      expect(response.status()).toBe(200)
      answer = await response.json()
    }).toPass({ timeout: 20_000 })
    return answer
  }
  const firms = ['Alpha Lines', 'beta & Docks', '']
  const there = new Map<string, { name: string, firm: string, number: string }>()
  Object.assign(book, { account: null, tells: true, most: 100 })
  for (const known of ['a.vcf', 'b.vcf', 'c.vcf']) book.remove(known)
  const added = await admin.request.post('/api/address-books', { data: { name: 'Random', address: `${origin}/books/pilots/`, user: '', password: '' } })
  expect(added.status()).toBe(200)
  const { id } = await added.json() as { id: string }
  for (let round = 0; round < 15; round++) {
    for (let step = 0; step < 5; step++) {
      const key = `${chance(12)} ü%.vcf`
      if (chance(4) === 0) {
        there.delete(key)
        book.remove(key)
        continue
      }
      const person = { name: `N${chance(5)} "${key}" <i>🚢</i>`, firm: firms[chance(3)]!, number: `+4411749608${10 + chance(12)}` }
      there.set(key, person)
      book.put(key, card(key, `FN:${person.name}`, ...person.firm ? [`ORG:${person.firm}`] : [], `TEL:${person.number}`))
    }
    if (chance(5) === 0) book.forget()
    Object.assign(book, { tells: chance(4) > 0, most: 1 + chance(6) })
    const tried = await asked(() => admin.request.post('/api/connections/try', { data: { kind: 'addressBook', id } }))
    expect((tried as { lastProblem: string | null }).lastProblem).toBeNull()
    const { changed } = await asked(() => admin.request.get('/api/contacts?since=0')) as {
      changed: { id: string, kind: string, name: string, company: string | null, numbers: { number: string }[], book: string | null }[]
    }
    const names = new Map(changed.map(one => [one.id, one.name]))
    const ours = changed.filter(one => one.book === 'Random')
    const people = ours.filter(({ kind }) => kind !== 'company').map(one => [one.name, names.get(one.company ?? '') ?? '', one.numbers[0]?.number].join('|'))
    expect(people.sort()).toEqual([...there.values()].map(({ name, firm, number }) => [name, firm, number].join('|')).sort())
    const companies = ours.filter(({ kind }) => kind === 'company').map(one => one.name)
    expect(companies.sort()).toEqual([...new Set([...there.values()].map(({ firm }) => firm).filter(Boolean))].sort())
  }
  expect((await admin.request.delete(`/api/address-books/${id}`)).status()).toBe(200)
  expect(JSON.stringify(await (await admin.request.get('/api/contacts?since=0')).json())).not.toContain('Alpha Lines')
})
