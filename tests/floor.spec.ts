import { expect, name, test } from './stage'

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

test('a card: who stands in, one\'s own note with a day to be reminded, and a place at the front of the floor', async ({ console, stage, browser }) => {
  const { telephones, people } = stage.cast.state.company
  const person = people.p2106!
  const deputy = people[person.deputies[0]!]!
  await name(console, `${person.first} ${person.last}`)
  const card = console.getByRole('complementary', { name: `About ${person.first} ${person.last}` })
  await expect(card.getByRole('list', { name: 'Stands in' })).toContainText(`${deputy.first} ${deputy.last}`)
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
