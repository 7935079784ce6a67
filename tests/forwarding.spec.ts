import { expect, name, ribbon, test } from './stage'

test('calls are sent on: on behalf of a colleague, seen on the floor and at their telephone, and ended there', async ({ console, stage }) => {
  const { cast } = stage
  const [away, instead] = [cast.state.company.telephones.t2110!, cast.state.company.telephones.t2111!]
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await name(console, away.name)
  await console.keyboard.press('Control+Shift+F8')
  const dialog = console.getByRole('dialog', { name: `Forward the calls of ${away.name}` })
  await expect(dialog.getByLabel('Calls go to', { exact: true })).toBeFocused()
  await dialog.getByRole('button', { name: 'Forward', exact: true }).click()
  await expect(dialog.getByRole('alert').first()).toContainText('name a person, a group or a number')
  await dialog.getByLabel('Calls go to', { exact: true }).fill(instead.name)
  await console.getByRole('option', { name: new RegExp(`^${instead.name}`) }).click()
  await dialog.getByRole('button', { name: 'Forward', exact: true }).click()
  await expect(dialog).toBeHidden()
  await expect(console.getByRole('button', { name: new RegExp(`^${away.name}\\. Calls go to ${instead.name}`) })).toBeVisible()

  const call = await cast.ring('Sent On')
  await ribbon(console, 'Arriving', 'Sent On').waitFor()
  await console.keyboard.press('Escape')
  await console.keyboard.press('Enter')
  await name(console, away.name)
  await console.keyboard.press('Enter')
  await expect.poll(() => cast.state.calls.get(call)?.connections.some(({ device, state }) => device === instead.id && state === 'alerting')).toBe(true)
  await cast.answer(instead.id, call)
  await expect(ribbon(console, 'Passed on', 'Sent On')).toBeHidden()

  const handset = await console.context().newPage()
  await handset.goto(`/handset?of=${away.id}`)
  const telephone = handset.getByRole('region', { name: `Handset of ${away.name}` })
  await expect(telephone).toContainText(`Calls go to ${instead.name}, set by Ines Quillfeather`)
  await telephone.getByRole('button', { name: 'End it' }).click()
  await expect(telephone).not.toContainText('Calls go to')
  await handset.close()
})
