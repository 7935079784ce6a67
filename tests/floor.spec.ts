import { expect, test } from './stage'

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
