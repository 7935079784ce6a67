import AxeBuilder from '@axe-core/playwright'
import { expectMadeAgain } from './made-again'
import { alone, expect, name, ribbon, test } from './stage'

const apart = alone()

test('what one\'s voicemail says while one is away, and a key that leads callers on', async ({ stage, browser, console }) => {
  const { cast } = stage
  const staff = await stage.open(browser, 'tomas')
  await staff.goto('/messages')
  const own = staff.getByRole('region', { name: 'Your voicemail' })
  await expect(own).toContainText('hears whose it is, and a tone')
  await own.getByRole('combobox', { name: 'Greeting' }).press('Enter')
  await staff.getByRole('option', { name: 'While away: lunch' }).click()
  await own.getByRole('textbox', { name: 'What it says' }).fill('At lunch until two. <b>1</b> leads to Ines.')
  await own.getByRole('button', { name: 'Keep the greeting' }).click()
  await expect(staff.getByRole('log', { name: 'What happens' })).toContainText('Your greeting is kept')
  await expect(own).toContainText('hears whose it is, and a tone')
  await cast.ask({ service: 'setStatus', device: 't2101', reason: 'lunch', until: null })
  await expect(own).toContainText('hears now: “At lunch until two. <b>1</b> leads to Ines.”')

  await own.getByRole('button', { name: 'Add the key' }).click()
  await expect(own.getByRole('alert')).toContainText('leads to is missing')
  await own.getByRole('combobox', { name: 'leads to' }).fill('Quillfeather')
  await staff.getByRole('option', { name: /^Ines Quillfeather/ }).click()
  await own.getByRole('button', { name: 'Add the key' }).click()
  await expect(own.getByRole('listitem').filter({ hasText: 'Ines Quillfeather' })).toContainText('1')
  expect((await new AxeBuilder({ page: staff }).analyze()).violations).toEqual([])

  const call = await cast.ring('Odette Farrowgate')
  await console.getByRole('button', { name: 'Answer Odette Farrowgate' }).click()
  await cast.talks('t2100', call)
  await cast.ask({ service: 'singleStepTransferCall', device: 't2100', call, to: 'mailbox:t2101' })
  await expect.poll(() => cast.state.calls.get(call)!.connections.some(({ device }) => device === 'mailbox:t2101')).toBe(true)
  await cast.ask({ service: 'generateDigits', device: cast.state.calls.get(call)!.calling, call, digits: '1' })
  await expect(ribbon(console, 'Arriving', 'Odette Farrowgate')).toBeVisible()

  await cast.ask({ service: 'setMailboxKey', device: 't2101', digit: '2', to: '2100' })
  await expect(own.getByRole('listitem').filter({ hasText: 'Ines Quillfeather' })).toHaveCount(2)
  await own.getByRole('button', { name: 'Take key 2 away' }).click()
  await own.getByRole('button', { name: 'Take key 1 away' }).click()
  await expect(own).toContainText('No key leads anywhere')
  await expect(own.getByRole('combobox', { name: 'Key' })).toBeFocused()
})

test('the voicemail of a group: reached by key, read by those in it alone, and it says who has dealt with what', async ({ stage, browser, console }) => {
  const { cast } = stage
  const staff = await stage.open(browser, 'staff')
  await staff.goto('/messages')
  const { device } = await (await staff.request.get('/api/session')).json() as { device: string }
  const { groups } = cast.state.company
  const group = Object.values(groups).find(({ members }) => members.includes(device) && !members.includes('t2100'))!
  const mailbox = `mailbox:${group.id}`

  const call = await cast.ring('Odette Farrowgate')
  await console.getByRole('button', { name: 'Answer Odette Farrowgate' }).click()
  await cast.talks('t2100', call)
  await name(console, group.name)
  await expect(console.getByRole('button', { name: `sends Odette Farrowgate to the voicemail of ${group.name}` })).toBeVisible()
  await console.keyboard.press('F2')
  await cast.talks(mailbox, call)
  await cast.say(call, 'The crates wait on the quay.')
  // A message is one only after two seconds.
  const since = () => cast.state.calls.get(call)!.connections.find(connection => connection.device === mailbox)!.since
  await expect.poll(() => Date.now() - since()).toBeGreaterThan(2_200)
  await cast.hangUp(call)

  const received = staff.getByRole('region', { name: 'Received' }).getByRole('listitem')
  const voice = received.filter({ hasText: 'The crates wait on the quay.' })
  await expect(voice).toContainText(`Voicemail of ${group.name}`)
  await expect(voice).toContainText('Nobody has dealt with it yet.')
  await voice.getByRole('button', { name: 'Odette Farrowgate', exact: true }).click()
  const chosen = staff.getByRole('complementary', { name: 'The chosen message' })
  expect((await new AxeBuilder({ page: staff }).analyze()).violations).toEqual([])
  await chosen.getByRole('button', { name: 'I have dealt with it' }).click()
  await expect(voice).toContainText(/Dealt with by .+, \d/)
  await chosen.getByRole('button', { name: 'Not dealt with after all' }).click()
  await expect(voice).toContainText('Nobody has dealt with it yet.')

  await name(console, group.name)
  await console.keyboard.press('F4')
  const dialog = console.getByRole('dialog', { name: 'Take a message' })
  await expect(dialog).toContainText(group.name)
  await dialog.getByRole('textbox', { name: 'What about' }).fill('Two lorries for Friday')
  await dialog.getByRole('button', { name: 'Leave message' }).click()
  const text = received.filter({ hasText: 'Two lorries for Friday' })
  await expect(text).toContainText(`For ${group.name}, taken down by`)
  await console.getByRole('link', { name: 'Messages' }).click()
  await expect(console.getByRole('region', { name: 'Taken down by you' })).toContainText('Two lorries for Friday')
  await expect(console.getByRole('region', { name: 'Received' })).not.toContainText('The crates wait')
})

apart('a greeting and its keys outlive the exchange, and are made again from the journal', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await own.cast.ask({ service: 'setGreeting', device: 't2105', when: 'usual', text: 'Speak, please.' })
  await own.cast.ask({ service: 'setMailboxKey', device: 't2105', digit: '1', to: '2106' })
  await own.cast.ask({ service: 'setGreeting', device: 't2106', when: 'lunch', text: 'Later.' })
  await expect.poll(async () => (await own.sql('select 1 from mailbox')).length).toBe(2)
  own.stack.exchange!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange does not answer' })).toBeVisible()
  await own.stack.startExchange()
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange' })).toBeHidden()
  await expect(page.getByRole('log', { name: 'What happens' })).toContainText('The connection is back.')
  await expect.poll(() => own.cast.state.devices.get('t2106')?.mailbox).toEqual({ greetings: { lunch: 'Later.' }, keys: {} })
  expect(own.cast.state.devices.get('t2105')!.mailbox).toEqual({ greetings: { usual: 'Speak, please.' }, keys: { 1: '2106' } })
  await expectMadeAgain(own)
})
