import { expect, name, ribbon, test } from './stage'

test('speaking to one telephone, a group and loudspeakers: callers wait on hold and hear nothing, and it says who was reached', async ({ console, stage }) => {
  const { cast } = stage
  const bar = console.getByRole('region', { name: 'Your microphone' })
  const log = console.getByRole('log', { name: 'What happens' })
  const { name: colleague } = cast.state.company.telephones.t2140!
  const handset = await console.context().newPage()
  await handset.goto('/handset?of=t2140&of=loudspeakers')
  const phone = handset.getByRole('region', { name: `Handset of ${colleague}` })
  await expect(phone).toBeVisible()
  await console.bringToFront()
  const call = await cast.ring('Patient Caller')
  await expect(ribbon(console, 'Arriving', 'Patient Caller')).toBeVisible()
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', 'Patient Caller')).toContainText('talking')

  // One telephone.
  await name(console, colleague)
  await console.keyboard.press('Control+F8')
  await expect(bar).toContainText(`Microphone open to ${colleague} alone`)
  await expect(log).toContainText(`Microphone open to ${colleague}`)
  await expect(ribbon(console, 'In hand', 'Patient Caller')).toContainText('on hold')
  await expect(bar.getByRole('textbox', { name: 'What you say' })).toBeFocused()
  await console.keyboard.type('Your visitor is <here>')
  await console.keyboard.press('Enter')
  await expect(phone).toContainText('Ines Quillfeather speaks to you: “Your visitor is <here>”')
  expect(cast.state.calls.get(call)!.caption).toBeNull()
  await console.keyboard.press('Escape')
  await expect(bar).toBeHidden()
  await expect(log).toContainText('Microphone closed')
  await expect(phone).not.toContainText('speaks to you')
  await expect(console.getByRole('combobox', { name: 'Who is it for?' })).toBeFocused()

  // The loudspeakers that are one key away; a text that must be said twice; it counts above others.
  await console.keyboard.press('&')
  await expect(bar).toContainText('Microphone open to Terminal hall')
  await bar.getByRole('button', { name: 'Read out …' }).click()
  const text = bar.getByRole('button', { name: /^Attention please\./ })
  await text.click()
  await expect(text).toContainText('said 1 of 2 times')
  await expect(bar).toContainText('Terminal hall, safety')
  const speakers = handset.getByRole('region', { name: 'Loudspeakers' })
  await expect(speakers.getByRole('listitem').filter({ hasText: 'Check-in' })).toContainText('Ines Quillfeather “Attention please.')
  await expect(speakers.getByRole('listitem').filter({ hasText: 'Quay north' })).toContainText('○ Quay north')

  // It closes by itself when nothing is said.
  cast.advance(16_000)
  await expect(bar).toBeHidden()
  await expect(log).toContainText('Microphone closed by itself: nothing was said for a while; reached all 2')

  // A group: who talks is left in peace, and named afterwards.
  await cast.ask({ service: 'setDoNotDisturb', device: 't2141', on: true })
  const group = Object.values(cast.state.company.groups).find(({ distribution, members }) => distribution === 'longestFree' && members.includes('t2141'))!
  await name(console, group.name)
  await console.getByRole('button', { name: /^Speak at once/ }).click()
  await expect(bar).toContainText(`Microphone open to ${group.name}`)
  await bar.getByRole('button', { name: /^Close/ }).click()
  await expect(console.getByRole('region', { name: 'Who was reached' })).toContainText(`${cast.state.company.telephones.t2141!.name} (do not disturb)`)

  // An intercom answers by itself with its microphone off.
  await console.keyboard.press('Space')
  await expect(ribbon(console, 'In hand', 'Patient Caller')).toContainText('talking')
  await cast.hangUp(call)
  await expect(ribbon(console, 'In hand', 'Patient Caller')).toBeHidden()
  await name(console, colleague)
  await console.keyboard.press('Control+F9')
  await expect(ribbon(console, 'In hand', colleague)).toContainText('talking')
  await expect(phone).toContainText('You are not heard until you turn the microphone on.')
  await phone.getByRole('button', { name: 'Turn the microphone on' }).click()
  await expect(phone).not.toContainText('You are not heard')
  await handset.close()
})

test('two operators and one zone: the second is told who speaks, and is next; a dying browser closes its microphone', async ({ console, stage, browser }) => {
  const bar = console.getByRole('region', { name: 'Your microphone' })
  const other = await stage.open(browser, 'tomas')
  await other.keyboard.press('&')
  await expect(other.getByRole('region', { name: 'Your microphone' })).toContainText('Microphone open to Terminal hall')
  await console.keyboard.press('&')
  await expect(bar).toContainText('Tomas Arkwell speaks there. You are next: Terminal hall')
  await expect(bar.getByRole('button', { name: 'Speak over them: safety first' })).toBeVisible()
  await other.context().close()
  await expect(bar).toContainText('Microphone open to Terminal hall')
  expect([...stage.cast.state.pages.values()].map(({ by }) => by)).toEqual(['t2100'])

  // What goes wrong is said, and whoever may not speak is refused by the server itself.
  await bar.getByRole('button', { name: /^Close/ }).click()
  const { inService, ...dead } = Object.values(stage.cast.state.company.telephones).find(telephone => !telephone.inService)!
  expect(inService).toBe(false)
  await name(console, dead.name)
  await console.keyboard.press('Control+F8')
  await expect(console.getByText(`${dead.name} has no telephone connected.`)).toBeVisible()
  const staff = await stage.open(browser, 'staff')
  const device = (await (await staff.request.get('/api/session')).json() as { device: string }).device
  const answer = await staff.request.post('/api/requests', { data: { id: 'staff-pages-1', service: 'openPage', device, to: 'zone:hall', rank: 'safety' } })
  expect(answer.status()).toBe(409)
  expect(await answer.json()).toMatchObject({ message: 'Only operators may speak to telephones and loudspeakers.' })
})
