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

test('a mobile rings along, and answers; a number is let through in spite of do not disturb: both set on the screen', async ({ console, stage }) => {
  const { cast } = stage
  const whose = cast.state.company.telephones.t2112!
  const { mobile } = cast.state.company.people[whose.person!]!
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await name(console, whose.name)
  await console.keyboard.press('Control+Shift+F8')
  const dialog = console.getByRole('dialog', { name: `Forward the calls of ${whose.name}` })
  await dialog.getByText(/Their mobile, .* rings along/).click()
  await expect.poll(() => cast.state.devices.get(whose.id)?.ringsAlong).toBe(true)
  await console.keyboard.press('Escape')
  await expect(dialog).toBeHidden()

  const call = await cast.ring('Wants Both', { from: '+447700900871' })
  await ribbon(console, 'Arriving', 'Wants Both').waitFor()
  await console.keyboard.press('Escape')
  await console.keyboard.press('Enter')
  await name(console, whose.name)
  await console.keyboard.press('Enter')
  const along = () => cast.state.calls.get(call)?.connections.find(({ party }) => party?.number === mobile)
  await expect.poll(() => along()?.state).toBe('alerting')
  await cast.answer(along()!.device, call)
  await expect.poll(() => along()?.state).toBe('connected')
  await expect(ribbon(console, 'Passed on', 'Wants Both')).toBeVisible()
  await cast.hangUp(call)
  await cast.ask({ service: 'setRingAlong', device: 't2100', of: whose.id, on: false })

  const handset = await console.context().newPage()
  await handset.goto(`/handset?of=${whose.id}`)
  const telephone = handset.getByRole('region', { name: `Handset of ${whose.name}` })
  await telephone.getByRole('button', { name: 'Do not disturb' }).click()
  await telephone.getByRole('textbox').first().fill('07700 900871')
  await telephone.getByRole('button', { name: 'Let through' }).click()
  await expect(telephone.getByText('Do not disturb, except 07700 900871')).toBeVisible()
  const [through, not] = [await cast.ring('Let Through', { from: '+447700900871', to: whose.direct! }), await cast.ring('Kept Away', { to: whose.direct! })]
  const rings = (id: string) => cast.state.calls.get(id)?.connections.some(({ device, state }) => device === whose.id && state === 'alerting')
  await expect.poll(() => [rings(through), rings(not)]).toEqual([true, false])
  for (const id of [through, not]) await cast.hangUp(id)
  await telephone.getByRole('button', { name: 'Do not disturb' }).click()
  await handset.close()
})
