import { alone, expect, name, test } from './stage'

test('the floor shows a site, a department, who is free, and everybody again, a key each', async ({ console, stage }) => {
  const { cast } = stage
  const windows = console.getByRole('region', { name: /^Everybody/ }).locator('.window')
  const everybody = await windows.count()
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await console.keyboard.press('<')
  await expect(console.getByText('Only Merrowby Quay', { exact: true })).toBeVisible()
  await expect.poll(() => windows.count()).toBeLessThan(everybody)
  await console.keyboard.press('>')
  await expect(console.getByText('Only Front desk', { exact: true })).toBeVisible()
  const { departments } = cast.state.company
  await expect(windows).toHaveCount(Object.values(cast.state.company.people).filter(({ department }) => departments[department]!.name === 'Front desk').length)

  // Who was free stays where they are when they are not any more.
  await console.keyboard.press(')')
  const one = cast.state.company.telephones.t2110!
  await cast.ask({ service: 'setDoNotDisturb', device: 't2111', on: true, until: null })
  await expect(console.getByRole('button', { name: new RegExp(`^${cast.state.company.telephones.t2111!.name}\\. Do not disturb`) })).toBeVisible()
  await console.keyboard.press('(')
  await expect(console.getByText('Only who was free just now', { exact: true })).toBeVisible()
  await expect(console.getByRole('button', { name: new RegExp(`^${cast.state.company.telephones.t2111!.name}\\.`) })).toHaveCount(0)
  await cast.ask({ service: 'setDoNotDisturb', device: one.id, on: true, until: null })
  await expect(console.getByRole('button', { name: new RegExp(`^${one.name}\\. Do not disturb`) })).toBeVisible()
  await console.getByRole('button', { name: 'Everybody )' }).click()
  await expect(windows).toHaveCount(everybody)
  for (const device of [one.id, 't2111']) await cast.ask({ service: 'setDoNotDisturb', device, on: false, until: null })
})

test('where there is room everybody has their extension beside their name, whatever they do; then until when, then why', async ({ console, stage }) => {
  const { cast } = stage
  const until = cast.state.time + cast.state.clockOffset + 3_600_000
  await cast.ask({ service: 'setStatus', device: 't2110', reason: 'lunch', until })
  await cast.ask({ service: 'setDoNotDisturb', device: 't2111', on: true, until: null })
  await console.setViewportSize({ width: 1920, height: 1080 })
  await expect(console.getByRole('button', { name: new RegExp(`^${cast.state.company.telephones.t2111!.name}\\. Do not disturb`) })).toBeVisible()
  const extensions = Object.fromEntries(Object.values(cast.state.company.telephones).flatMap(({ id, number }) => number ? [[id, number]] : []))
  const unseen = () => console.evaluate(extensions => Array.from(document.querySelectorAll<HTMLElement>('.window')).flatMap((own) => {
    const extension = extensions[own.dataset.person!]
    const shown = Array.from(own.querySelectorAll('span')).find(({ textContent }) => textContent === extension)
    const [room, place] = [own.getBoundingClientRect(), shown?.getBoundingClientRect()]
    return extension === undefined || (place && place.bottom <= room.bottom + 1 && place.right <= room.right) ? [] : [own.title]
  }), extensions)
  await expect.poll(unseen).toEqual([])
  await expect(console.locator('[data-person="t2110"]')).toContainText(/2110\d+:\d\dlunch/)
  await cast.ask({ service: 'setStatus', device: 't2110', reason: null, until: null })
  await cast.ask({ service: 'setDoNotDisturb', device: 't2111', on: false, until: null })
})

test('a card: who stands in, one\'s own note with a day to be reminded, and a place at the front of the floor', async ({ console, stage, browser }) => {
  const { telephones, people } = stage.cast.state.company
  const person = people.p2106!
  const deputy = people[person.deputies[0]!]!
  await name(console, `${person.first} ${person.last}`)
  const card = console.getByRole('complementary', { name: `About ${person.first} ${person.last}` })
  await expect(card.getByRole('list', { name: 'Who stands in' })).toContainText(`${deputy.first} ${deputy.last}`)
  await card.getByRole('button', { name: 'Pin to the front of the floor' }).click()
  const note = card.getByLabel('Your note, seen by nobody else')
  await note.fill('Likes <b>short</b> calls - and = no + tricks')
  await card.getByLabel('Remind me on').fill(new Date().toISOString().slice(0, 10))
  await note.press('Control+Enter')
  await expect.poll(() => stage.sql('select sign_in, text from own_note')).toEqual([{ sign_in: 'ines', text: 'Likes <b>short</b> calls - and = no + tricks' }])
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await console.keyboard.press('Escape')

  // Oneself first, then whoever is pinned; each stands in one place only.
  const windows = console.locator('.floor .window')
  await expect(windows.nth(0)).toHaveAccessibleName(new RegExp(`^${telephones.t2100!.name}\\.`))
  await expect(windows.nth(1)).toHaveAccessibleName(new RegExp(`^${person.first} ${person.last}\\.`))
  await expect(console.getByRole('button', { name: new RegExp(`^${person.first} ${person.last}\\.`) })).toHaveCount(1)
  await console.reload()
  await expect(windows.nth(1)).toHaveAccessibleName(new RegExp(`^${person.first} ${person.last}\\.`))
  const reminder = console.getByRole('region', { name: 'To remember today' }).getByRole('button', { name: /short/ })
  await reminder.click()
  await card.getByLabel('Remind me on').fill('')
  await card.getByRole('button', { name: 'Keep' }).click()
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await console.keyboard.press('Escape')
  await expect(reminder).toBeHidden()
  // Nobody else has it.
  const other = await stage.open(browser, 'tomas')
  await name(other, `${person.first} ${person.last}`)
  await expect(other.getByRole('complementary', { name: `About ${person.first} ${person.last}` }).getByLabel('Your note, seen by nobody else')).toHaveValue('')
  await other.context().close()
})

test('what waits for a colleague, and that they talk on their mobile, is seen on the floor and said', async ({ console, stage }) => {
  const { cast } = stage
  const { telephones, people } = cast.state.company
  const whose = Object.values(telephones).find(({ id, person }) => person && people[person]!.mobile && !cast.state.agents.has(id) && id !== 't2106')!
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  const message = { to: whose.id, caller: 'Nell', number: null, text: 'The crates have come', urgent: false, callBack: false }
  expect((await console.request.post('/api/messages', { data: message })).ok()).toBe(true)
  await expect(console.getByRole('button', { name: new RegExp(`^${whose.name}\\..* 1 new message$`) })).toBeVisible()
  await name(console, whose.name)
  const card = console.getByRole('complementary', { name: `About ${whose.name}` })
  await expect(card).toContainText('1 new message')
  await stage.sql(`update message set read_at = now() where "to" = '${whose.id}'`)
  await console.keyboard.press('Escape')

  await cast.ask({ service: 'setRingAlong', device: 't2100', of: whose.id, on: true })
  const call = await cast.ring('Nell', { to: whose.direct! })
  await expect(console.getByRole('button', { name: new RegExp(`^${whose.name}\\. Ringing called by`) })).toBeVisible()
  const mobile = cast.state.calls.get(call)!.connections.find(({ along }) => along === whose.id)!.device
  await cast.answer(mobile, call)
  await expect(console.getByRole('button', { name: new RegExp(`^${whose.name}\\. Talking on the mobile with`) })).toBeVisible()
  await cast.hangUp(call)
  await expect(console.getByRole('button', { name: new RegExp(`^${whose.name}\\. Free`) })).toBeVisible()
  await cast.ask({ service: 'setRingAlong', device: 't2100', of: whose.id, on: false })
})

alone({ people: 2_500 })('of thousands the right one is called, however fast the name is typed and Enter pressed', async ({ own, browser }) => {
  test.setTimeout(120_000)
  const console = await own.open(browser, 'ines')
  const { people, telephones } = own.cast.state.company
  expect(Object.keys(people)).toHaveLength(2_500)
  const callable = Object.values(telephones).filter(({ id, person }) => person !== null && !own.cast.state.agents.has(id))
  const field = console.getByRole('combobox', { name: 'Who is it for?' })
  for (const whose of [callable[900]!, callable[1_700]!]) {
    await field.focus()
    await console.keyboard.type(whose.number)
    await console.keyboard.press('Enter')
    const call = await own.cast.ringingAt(whose.id)
    await expect(console.getByRole('region', { name: 'In hand' })).toContainText(whose.name)
    await own.cast.hangUp(call)
    await expect(field).toHaveValue('')
  }
})

alone({ people: 20_000 })('a company of twenty thousand opens, draws only who is near sight, and shows who has gone', async ({ own, browser }) => {
  test.setTimeout(120_000)
  const console = await own.open(browser, 'ines')
  const windows = console.getByRole('region', { name: /^Everybody: \d+ of 20\d+ free$/ }).locator('.window')
  await expect(windows.first()).toBeVisible()
  expect(await windows.count()).toBeLessThan(1_000)
  const { telephones } = own.cast.state.company
  const last = telephones.t2110!
  await own.cast.ask({ service: 'setDoNotDisturb', device: last.id, on: true, until: null })
  await expect(console.getByRole('button', { name: new RegExp(`^${last.name}\\. Do not disturb`) })).toBeVisible()
})
