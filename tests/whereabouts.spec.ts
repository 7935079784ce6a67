import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { alone, expect, name, ribbon, signedIn } from './stage'

const hour = 3_600_000
const stamp = (at: number) => new Date(at).toISOString().slice(0, 19).replaceAll(/[-:]/g, '') + 'Z'
const event = (uid: string, from: number, to: number, ...lines: string[]) =>
  ['BEGIN:VEVENT', `UID:${uid}`, `DTSTART:${stamp(from)}`, `DTEND:${stamp(to)}`, ...lines, 'END:VEVENT'].join('\r\n')
const calendar = (...events: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', ...events, 'END:VCALENDAR', ''].join('\r\n')
/** Shown as on a console: browser and tests share one clock and zone. */
const clock = (at: number) => `${new Date(at).getHours()}:${String(new Date(at).getMinutes()).padStart(2, '0')}`

/** The office's own program, of which the server has been told. */
const served = { text: '', status: 200 }
const office = createServer((_, response) => response.writeHead(served.status).end(served.text))
await new Promise<void>(resolve => office.listen(0, '127.0.0.1', resolve))
const origin = `http://127.0.0.1:${(office.address() as AddressInfo).port}`
const token = 'let me in'
const test = alone({ serverEnv: { NUXT_CALENDAR_ORIGINS: origin, NUXT_OCCUPANCY_TOKEN: token } })
test.afterAll(() => office.close())

test('a calendar from an address: only times and places are kept, the window and the card say until when; what can\'t be fetched changes nothing',
  async ({ own, browser }) => {
    const now = Date.now()
    const person = own.cast.state.company.people.p2110!
    served.text = calendar(event('1', now - hour, now + 2 * hour, 'SUMMARY:Secret talk', 'LOCATION:Chart room'), event('2', now + 2 * hour, now + 3 * hour))
    const keeper = await own.open(browser, 'bryony')
    await name(keeper, `${person.first} ${person.last}`)
    await keeper.getByRole('button', { name: 'Add a calendar …' }).click()
    const dialog = keeper.getByRole('dialog', { name: `Calendar of ${person.first} ${person.last}` })
    const take = dialog.getByRole('button', { name: 'Take this calendar' })
    await dialog.getByLabel(/^Address/).fill('http://10.0.0.1/calendar.ics')
    await take.click()
    await expect(dialog.getByRole('alert')).toContainText('The address lies in our own network')
    await dialog.getByLabel(/^Address/).fill(`${origin}/nell.ics`)
    await take.click()
    await expect(dialog).toBeHidden()
    const card = keeper.getByRole('complementary', { name: `About ${person.first} ${person.last}` })
    const until = clock(now + 3 * hour)
    await expect(card.getByText(/^Out until .*by the calendar, Chart room$/)).toContainText(until)
    await expect(card.getByRole('list', { name: /^Calendar, today/ }).getByRole('listitem').first()).toContainText('Chart room')
    expect(JSON.stringify(await own.sql('select * from calendar, calendar_span'))).not.toContain('Secret')

    // Everybody sees it; where they are is for those who answer for the company.
    const staff = await signedIn(own.url, 'staff')
    const { engagements } = await (await staff.get('/api/whereabouts')).json() as { engagements: { person: string, place: string }[] }
    expect(engagements).toHaveLength(2)
    expect(engagements.every(one => one.person === person.id && one.place === '')).toBe(true)
    for (const who of [staff, await signedIn(own.url, 'ines')])
      expect((await who.put(`/api/calendars/${person.id}`, { data: { address: `${origin}/x.ics`, content: null } })).status()).toBe(403)

    // Somebody who is out is called all the same; the call outweighs the calendar.
    await keeper.keyboard.press('Escape')
    await expect(dialog).toBeHidden()
    await keeper.getByRole('combobox', { name: 'Who is it for?' }).focus()
    await keeper.keyboard.press('Escape')
    const window = (state: string) => keeper.getByRole('button', { name: new RegExp(`^${person.first} ${person.last}\\. ${state}`) })
    await expect(window('Out until .* by the calendar, Chart room')).toBeVisible()
    await own.cast.ask({ service: 'makeCall', device: 't2110', number: '2111' })
    await expect(window('Calling')).toBeVisible()

    // The address stops answering: what was known before still holds, and the dialog says why.
    served.status = 500
    await own.sql('update calendar set next_at = now()')
    await expect.poll(async () => (await own.sql<{ failure: string | null }>('select failure from calendar'))[0]!.failure, { timeout: 60_000 })
      .toContain('status 500')
    expect(await own.sql('select * from calendar_span')).toHaveLength(2)
    served.status = 200
  })

test('who is on duty is found by what it is asked for and called by one key; a gap says so, and whom to reach instead', async ({ own, browser }) => {
  const now = Date.now()
  const { company } = own.cast.state
  const [first, second] = [company.people.p2120!, company.people.p2121!]
  const keeper = await own.open(browser, 'bryony')
  await keeper.getByRole('link', { name: 'Who is where' }).click()
  const row = keeper.getByRole('row', { name: /^Engineering on call/ })
  await expect(row).toContainText('nobody: a gap')
  await row.getByRole('button', { name: 'Roster of Engineering on call' }).click()
  const roster = (from: number) => ({
    name: 'roster.ics', mimeType: 'text/calendar', buffer: Buffer.from(calendar(
      event('1', from, from + 2 * hour, `SUMMARY:${first.last}\\, ${first.first}; ${second.first} ${second.last}`),
      event('2', now + 5 * hour, now + 6 * hour, 'SUMMARY:2122'), event('3', now + 5 * hour, now + 6 * hour, 'SUMMARY:Nobody Known'),
    )),
  })
  const dialog = keeper.getByRole('dialog', { name: 'Calendar of Engineering on call' })
  await dialog.getByLabel('Or a file (.ics)').setInputFiles(roster(now - hour))
  await dialog.getByRole('button', { name: 'Take this calendar' }).click()
  await expect(dialog).toBeHidden()
  const later = company.people.p2122!
  await expect(row).toContainText(`${later.first} ${later.last}, Nobody Known (unknown)`)

  const console = await own.open(browser, 'ines')
  await own.cast.ring('Wants An Engineer')
  await console.getByRole('button', { name: 'Answer Wants An Engineer' }).click()
  await expect(ribbon(console, 'In hand', 'Wants An Engineer')).toContainText('talking')
  await console.keyboard.type('duty engineer')
  const answer = console.getByRole('option', { name: /^Engineering on call/ })
  await expect(answer).toContainText(`${second.first} ${second.last}`)
  await expect(console.getByRole('button', { name: `passes Wants An Engineer on to ${first.first} ${first.last}` })).toBeVisible()

  // Nobody has the turn any more: the way leads to whoever stands in.
  await console.keyboard.press('Escape')
  const { content } = { content: roster(now + hour).buffer.toString() }
  const bryony = await signedIn(own.url, 'bryony')
  expect((await bryony.put('/api/calendars/duty%3Aengineering', { data: { address: null, content } })).status()).toBe(200)
  await console.keyboard.type('duty engineer')
  await expect(answer).toContainText('Nobody is on duty')
  await expect(answer).toContainText('Reached instead: Workshop')
  await expect(console.getByRole('button', { name: /on to whoever in Workshop has been free longest/ })).toBeVisible()
})

test('a place is found by whoever is there, as another program tells it or a list that is dropped in; who was there is kept', async ({ own, browser }) => {
  const tell = (list: string, as = token) =>
    fetch(`${own.url}/api/occupants/feed`, { method: 'POST', headers: { 'authorization': `Bearer ${as}`, 'content-type': 'text/csv' }, body: list })
  expect((await tell('place,occupant\n851,MV Dunlin', 'guess')).status).toBe(401)
  const wrong = await tell('place,occupant,from\n851,MV Dunlin,soon')
  expect([wrong.status, await wrong.text()]).toEqual([422, expect.stringContaining('Line 2: from is not a time')])
  expect(await (await tell('place,occupant\n851,MV Dunlin\nBerth 2,<b>MV</b> Plover\n99,x')).json()).toEqual({ stays: 2, unknown: ['99'] })

  const console = await own.open(browser, 'ines')
  await console.keyboard.type('dunlin')
  const answer = console.getByRole('option', { name: /^Berth 1/ })
  await expect(answer).toContainText('MV Dunlin is there now')
  await console.keyboard.press('Escape')
  await console.keyboard.type('berth 1')
  await console.keyboard.press('Enter')
  await own.cast.ringingAt('t851')
  await console.keyboard.press('Backspace')

  await console.getByRole('link', { name: 'Who is where' }).click()
  const berth = console.getByRole('row', { name: /^Berth 2/ })
  await expect(berth).toContainText('<b>MV</b> Plover')
  const list = { name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from('place,occupant\n852,Survey party') }
  await console.getByLabel(/^A new list of who is where/).setInputFiles(list)
  await expect(console.getByRole('status').filter({ hasText: '1 row was taken' })).toBeVisible()
  await expect(berth).toContainText('Survey party')
  await expect(berth).toContainText(/Plover until \d/)
  await expect(console.getByRole('row', { name: /^Berth 1/ })).toContainText('nobody')
  // Staff members are told nobody's name.
  const staff = await signedIn(own.url, 'staff')
  expect(await (await staff.get('/api/whereabouts')).json()).toMatchObject({ occupants: [] })
  expect((await staff.put('/api/occupants', { data: { csv: 'place,occupant\n' } })).status()).toBe(403)
})
