import type { Page } from '@playwright/test'
import { expect, name, ribbon, type Stage, test } from './stage'

/** Every way to hold, ask, pass on, park and get a call back, through the real interface. */

const marit = { device: 't2150', extension: '2150', words: '' }
const dunstan = { device: 't2151', extension: '2151', words: '' }
/** Far from the edges of the floor, where a browser scrolls while something is dragged. */
const amid = { device: 't2117', extension: '2117', words: '' }

test.beforeEach(async ({ stage }) => {
  for (const person of [marit, dunstan, amid]) person.words = stage.cast.state.company.telephones[person.device]!.name
})

async function inHand(console: Page, stage: Stage, name: string): Promise<string> {
  const call = await stage.cast.ring(name)
  await expect(ribbon(console, 'Arriving', name)).toBeVisible()
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', name)).toContainText('talking')
  return call
}

async function more(console: Page, caller: string, item: string): Promise<void> {
  await console.getByRole('button', { name: `More for ${caller}` }).click()
  await console.getByRole('menuitem', { name: item }).click()
}

test.describe('an announced transfer', () => {
  test('yes, by keyboard: asked, swapped, handed over', async ({ console, stage }) => {
    const call = await inHand(console, stage, 'Announced Yes')
    await name(console, marit.words)
    await console.keyboard.press('Shift+Enter')
    await expect(ribbon(console, 'In hand', 'Asking for Announced Yes')).toContainText(marit.words)
    await expect(ribbon(console, 'In hand', `waits while you ask ${marit.words}`)).toContainText('on hold')
    const asking = await stage.cast.ringingAt(marit.device)
    await stage.cast.answer(marit.device, asking)
    await expect(console.getByRole('log')).toContainText(`${marit.words} answered`)
    await console.keyboard.press('ArrowLeft')
    await expect(ribbon(console, 'In hand', 'General line')).toContainText('talking')
    await console.keyboard.press('ArrowLeft')
    await expect(ribbon(console, 'In hand', 'General line')).toContainText('on hold')
    await expect(console.getByRole('button', { name: `hands Announced Yes over to ${marit.words}` })).toBeVisible()
    await console.keyboard.press('Enter')
    await expect(console.getByText(/^No call in hand\./)).toBeVisible()
    expect(stage.cast.state.calls.get(call)!.connections.map(({ device }) => device)).toContain(marit.device)
  })

  test('no: Backspace brings the caller back, and a colleague who declines or hangs up leaves them a key away', async ({ console, stage }) => {
    await inHand(console, stage, 'Announced No')
    await name(console, marit.words)
    await console.keyboard.press('Shift+Enter')
    await stage.cast.answer(marit.device, await stage.cast.ringingAt(marit.device))
    await expect(ribbon(console, 'In hand', 'Asking for Announced No')).toContainText('talking')
    await console.keyboard.press('Backspace')
    await expect(ribbon(console, 'In hand', 'Announced No')).toContainText('talking')
    await expect(ribbon(console, 'In hand', 'Asking for')).toBeHidden()

    await name(console, marit.words)
    await console.keyboard.press('Shift+Enter')
    await stage.cast.leave(marit.device, await stage.cast.ringingAt(marit.device))
    await expect(ribbon(console, 'In hand', 'General line')).toContainText(`${marit.words} declined`)
    await expect(ribbon(console, 'In hand', 'Asking for')).toBeHidden()
    await console.keyboard.press('Space')
    await expect(ribbon(console, 'In hand', 'Announced No')).toContainText('talking')
  })

  test('by mouse, completed before the answer: watched, pulled back', async ({ console, stage }) => {
    await inHand(console, stage, 'Announced Early')
    await console.getByRole('button', { name: new RegExp(`^${marit.words}\\. .*\\b${marit.extension}, `) }).click()
    await console.getByRole('button', { name: `Ask first: asks ${marit.words}` }).click()
    await stage.cast.ringingAt(marit.device)
    await console.getByRole('button', { name: `Hand Announced Early over to ${marit.words}` }).click()
    await expect(ribbon(console, 'Passed on', 'Announced Early')).toContainText(`rings at ${marit.words}`)
    await console.getByRole('button', { name: 'Pull back Announced Early' }).click()
    await expect(ribbon(console, 'In hand', 'Announced Early')).toContainText('talking')
  })
})

test.describe('a blind transfer', () => {
  test('with a line of text, pulled back by key, then straight to voicemail without ringing', async ({ console, stage }) => {
    const call = await inHand(console, stage, 'Blind Note')
    await name(console, marit.words)
    await console.getByLabel('A line of text to send along').fill('about the red cabin')
    await console.getByRole('button', { name: `passes Blind Note on to ${marit.words}` }).click()
    await expect(ribbon(console, 'Passed on', 'Blind Note')).toContainText('“about the red cabin”')
    await console.keyboard.press('Backspace')
    await expect(ribbon(console, 'In hand', 'Blind Note')).toContainText('talking')

    await name(console, marit.words)
    await console.keyboard.press('F2')
    await expect(console.getByText(/^No call in hand\./)).toBeVisible()
    expect(stage.cast.state.calls.get(call)!.connections.map(({ device }) => device)).toContain(`mailbox:${marit.device}`)
  })

  test('to an outside number as typed, shown as people write it; nonsense is refused with a reason', async ({ console, stage }) => {
    await inHand(console, stage, 'Blind Out')
    await console.keyboard.type('+44 20 7946 0444')
    await expect(console.getByRole('button', { name: 'passes Blind Out on to 020 7946 0444' })).toBeVisible()
    await console.keyboard.press('Enter')
    await expect(ribbon(console, 'Passed on', 'Blind Out')).toContainText('rings at 020 7946 0444')
    await console.keyboard.press('Backspace')
    await expect(ribbon(console, 'In hand', 'Blind Out')).toBeVisible()
    await console.keyboard.type('+44 29 20')
    await expect(console.getByText('That is not a complete telephone number')).toBeVisible()
    await console.keyboard.press('Enter')
    await expect(ribbon(console, 'In hand', 'Blind Out')).toContainText('talking')
    await console.keyboard.press('Escape')
    await console.keyboard.type('07700 900123')
    await console.keyboard.press('Enter')
    await expect(console.getByRole('alert').filter({ hasText: 'That number is in this call already. Your caller is still with you.' })).toBeVisible()
  })

  test('to a group: whoever has been free longest, or all at once; and to a queue', async ({ console, stage }) => {
    const call = await inHand(console, stage, 'Blind Group')
    await console.keyboard.type('lost property')
    await expect(console.getByRole('option').first()).toContainText('Group · 3 of 3 free')
    await console.keyboard.press('Shift+Enter')
    await expect(ribbon(console, 'Passed on', 'Blind Group')).toContainText('rings at Lost property')
    const rung = stage.cast.state.calls.get(call)!.connections.filter(({ state }) => state === 'alerting').map(({ device }) => device)
    expect(rung).toHaveLength(3)
    await stage.cast.answer(rung[1]!, call)
    await expect(ribbon(console, 'Passed on', `${stage.cast.state.company.telephones[rung[1]!]!.name} took it`)).toBeVisible()

    const second = await inHand(console, stage, 'Blind Queue')
    await console.keyboard.type('601')
    await console.keyboard.press('Enter')
    await expect(ribbon(console, 'Passed on', 'Blind Queue')).toContainText('waits in the Reservations queue')
    expect(stage.cast.state.calls.get(second)!.passing).toMatchObject({ to: 'queue:reservations' })
  })
})

test('a conference: joined after asking, another rung to join, one muted, one dropped, left to the others', async ({ console, stage }) => {
  const call = await inHand(console, stage, 'Conference Caller')
  await name(console, marit.words)
  await console.keyboard.press('Shift+Enter')
  await stage.cast.answer(marit.device, await stage.cast.ringingAt(marit.device))
  await expect(ribbon(console, 'In hand', 'Asking for')).toContainText('talking')
  await console.keyboard.press('F8')
  const conference = console.getByRole('region', { name: 'In hand' }).getByRole('listitem').filter({ hasText: 'Conference' }).first()
  await expect(conference).toContainText('talking')
  await name(console, dunstan.words)
  await console.keyboard.press('F8')
  await expect(conference.getByRole('listitem').filter({ hasText: dunstan.words })).toContainText('is being rung')
  await stage.cast.answer(dunstan.device, call)
  await conference.getByRole('button', { name: `Mute ${marit.words}` }).click()
  await expect(conference.getByRole('button', { name: `Unmute ${marit.words}` })).toBeVisible()
  await conference.getByRole('button', { name: `Drop ${dunstan.words}` }).click()
  await expect(conference.getByRole('listitem').filter({ hasText: dunstan.words })).toBeHidden()
  await console.keyboard.press('Delete')
  await expect(console.getByRole('button', { name: 'Leave the conference; press again' })).toBeVisible()
  await console.keyboard.press('Delete')
  await expect(console.getByText(/^No call in hand\./)).toBeVisible()
  expect(stage.cast.state.calls.get(call)!.connections.map(({ device }) => device)).toEqual([expect.stringContaining('#'), marit.device])
})

test('a quick hand: letters and Enter while the answer is still under way pass the caller on, and call nobody', async ({ console, stage }) => {
  await stage.cast.ring('Quick Caller')
  await expect(ribbon(console, 'Arriving', 'Quick Caller')).toBeVisible()
  let release = () => {}
  const held = new Promise<void>((resolve) => { release = resolve })
  await console.route('**/api/requests', async (route) => {
    await held
    await route.continue()
  }, { times: 1 })
  await console.keyboard.press('Enter')
  await name(console, marit.words)
  await console.keyboard.press('Enter')
  await expect(console.getByRole('combobox', { name: 'Who is it for?' })).toHaveValue(marit.words)
  release()
  await expect(ribbon(console, 'Passed on', 'Quick Caller')).toContainText(`rings at ${marit.words}`)
  await expect(console.getByRole('combobox', { name: 'Who is it for?' })).toHaveValue('')
})

test('do not disturb on behalf of a colleague: their handset says who set it', async ({ console, stage }) => {
  await name(console, marit.words)
  await console.keyboard.press('Shift+F8')
  await expect(console.getByRole('dialog', { name: /^Do not disturb/ }).getByLabel('Until')).toHaveValue(/^\d{1,2}:\d\d$/)
  await console.keyboard.press('Enter')
  await expect.poll(() => stage.cast.state.devices.get(marit.device)!.doNotDisturb).toBe(true)
  const handset = await console.context().newPage()
  await handset.goto(`/handset?of=${marit.device}`)
  await expect(handset.getByText(/Do not disturb, set by Ines Quillfeather for another/)).toBeVisible()
  await handset.getByRole('button', { name: 'Do not disturb' }).click()
  await expect(handset.getByText(/Do not disturb, set by/)).toBeHidden()
  await handset.close()
})

test.describe('parking', () => {
  test('by two keys, seen by the other operator, and got by one of two who both try', async ({ console, stage, browser }) => {
    const other = await stage.open(browser, 'tomas')
    await inHand(console, stage, 'Parked Caller')
    await console.keyboard.type('*4')
    await expect(console.getByText(/^No call in hand\./)).toBeVisible()
    const panel = console.getByRole('complementary', { name: 'The call in question' })
    await expect(panel).toContainText('This caller waits in park slot 4.')
    const slot = (page: Page) => page.getByRole('button', { name: /^Take Parked Caller from slot 4, parked by Ines Quillfeather/ })
    await expect(slot(other)).toBeVisible()
    const first = slot(other).waitFor({ state: 'hidden' })
    await console.route('**/api/requests', async (route) => {
      await first
      await route.continue()
    })
    await slot(console).click()
    await slot(other).click()
    await expect(ribbon(other, 'In hand', 'Parked Caller')).toContainText('talking')
    await expect(console.getByRole('alert').filter({ hasText: 'That call is with Tomas Arkwell now' })).toBeVisible()
    await expect(panel).toContainText('This call goes on without you.')
    await stage.cast.clearTheStage()
    await expect(panel).toContainText('This call is over.')
    await other.context().close()
  })

  test('for a person: their handset shows it and takes it; the history tells', async ({ console, stage }) => {
    await inHand(console, stage, 'Reserved Caller')
    await name(console, marit.words)
    await console.keyboard.press('Control+Enter')
    await expect(console.getByRole('button', { name: new RegExp(`^Take Reserved Caller from slot 1, kept for ${marit.words}`) })).toBeVisible()
    const handset = await console.context().newPage()
    await handset.goto(`/handset?of=${marit.device}`)
    await expect(handset.getByText(/Reserved Caller waits for you in park slot 1, parked by Ines Quillfeather/)).toBeVisible()
    await handset.getByRole('button', { name: 'Take', exact: true }).click()
    await expect(handset.getByRole('article', { name: 'Call with Reserved Caller' })).toContainText('talking')
    await handset.close()
    await console.getByRole('link', { name: 'Call log' }).click()
    await console.getByRole('link', { name: 'Parkings' }).click()
    await expect(console.getByRole('row').filter({ hasText: 'Reserved Caller' })).toContainText(`taken by ${marit.words}`)
  })

  test('unfetched, it comes back with its story; a caller who has gone leaves a note that says so', async ({ console, stage }) => {
    const call = await inHand(console, stage, 'Forgotten Caller')
    await more(console, 'Forgotten Caller', 'Park in the first free slot')
    await expect(ribbon(console, 'Arriving', 'Forgotten Caller')).toContainText('Back: nobody came to park slot 1', { timeout: 20_000 })
    await console.keyboard.press('Enter')
    await name(console, marit.words)
    await console.keyboard.press('Control+Enter')
    await expect(console.getByText(/^No call in hand\./)).toBeVisible()
    await stage.cast.hangUp(call)
    const handset = await console.context().newPage()
    await handset.goto(`/handset?of=${marit.device}`)
    await expect(handset.getByText(/Forgotten Caller waited for you in park slot 1 .* and has hung up/)).toBeVisible()
    await handset.getByRole('button', { name: 'Put away' }).click()
    await expect(handset.getByText(/Forgotten Caller waited/)).toBeHidden()
    await handset.close()
  })
})

test('what rings at a colleague is picked up; what talks there is carried elsewhere', async ({ console, stage }) => {
  const direct = await stage.cast.ring('Direct Caller', { to: '+441632960150' })
  await name(console, marit.words)
  await expect(console.getByRole('button', { name: `picks up what rings at ${marit.words}` })).toBeVisible()
  await console.keyboard.press('Shift+F2')
  await expect(ribbon(console, 'In hand', 'Direct Caller')).toContainText('talking')
  await name(console, marit.words)
  await console.keyboard.press('Enter')
  await stage.cast.answer(marit.device, await stage.cast.ringingAt(marit.device))
  await expect(console.getByText(/^No call in hand\./)).toBeVisible()

  await name(console, marit.words)
  await expect(console.getByRole('button', { name: `carries the call of ${marit.words} elsewhere` })).toBeVisible()
  await console.keyboard.press('Shift+F4')
  await expect(console.getByText('Carrying Direct Caller to…')).toBeVisible()
  await name(console, dunstan.words)
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'Passed on', 'Direct Caller')).toContainText(`rings at ${dunstan.words}`)
  await stage.cast.answer(dunstan.device, direct)
  await expect(ribbon(console, 'Passed on', `${dunstan.words} took it`)).toBeVisible()
})

test.describe('dragging', () => {
  const window = (page: Page, person: typeof marit) => page.getByRole('button', { name: new RegExp(`^${person.words}\\. .*\\b${person.extension}, `) })

  async function dragOver(console: Page, caller: string, target: ReturnType<typeof window>, key?: string): Promise<void> {
    const from = (await ribbon(console, 'In hand', caller).boundingBox())!
    await target.scrollIntoViewIfNeeded()
    const to = (await target.boundingBox())!
    await console.mouse.move(from.x + 60, from.y + 20)
    await console.mouse.down()
    if (key) await console.keyboard.down(key)
    await console.mouse.move(from.x + 80, from.y + 60, { steps: 4 })
    await console.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 6 })
  }

  test('onto a window says what dropping does, and does it; onto a slot parks', async ({ console, stage }) => {
    await inHand(console, stage, 'Dragged Caller')
    await dragOver(console, 'Dragged Caller', window(console, amid))
    await expect(console.getByText(`Dropping passes Dragged Caller on to ${amid.words}`)).toBeVisible()
    await console.mouse.up()
    await expect(ribbon(console, 'Passed on', 'Dragged Caller')).toContainText(`rings at ${amid.words}`)
    await console.keyboard.press('Backspace')
    await expect(ribbon(console, 'In hand', 'Dragged Caller')).toBeVisible()
    await dragOver(console, 'Dragged Caller', console.getByRole('button', { name: 'Park Dragged Caller in slot 3' }))
    await expect(console.getByText('Dropping parks Dragged Caller in park slot 3')).toBeVisible()
    await console.mouse.up()
    await expect(console.getByRole('button', { name: /^Take Dragged Caller from slot 3/ })).toBeVisible()
  })

  test('with Shift asks first', async ({ console, stage }) => {
    await inHand(console, stage, 'Shifted Caller')
    await dragOver(console, 'Shifted Caller', window(console, amid), 'Shift')
    await expect(console.getByText(`Dropping asks ${amid.words} while Shifted Caller waits`)).toBeVisible()
    await console.mouse.up()
    await console.keyboard.up('Shift')
    await expect(ribbon(console, 'In hand', 'Asking for Shifted Caller')).toBeVisible()
  })

  test('out of a slot onto a window', async ({ console, stage }) => {
    await inHand(console, stage, 'Slotted Caller')
    await console.keyboard.type('*2')
    const slot = console.getByRole('button', { name: /^Take Slotted Caller from slot 2/ })
    await expect(slot).toBeVisible()
    await slot.dragTo(window(console, amid))
    await expect(ribbon(console, 'Passed on', 'Slotted Caller')).toContainText(`rings at ${amid.words}`)
  })

  test('the same by keyboard: carried, and put down with Escape', async ({ console, stage }) => {
    await inHand(console, stage, 'Carried Caller')
    await more(console, 'Carried Caller', 'Carry to…')
    await expect(console.getByText('Carrying Carried Caller to…')).toBeVisible()
    await console.getByRole('combobox', { name: 'Who is it for?' }).press('Escape')
    await expect(console.getByText('Carrying Carried Caller to…')).toBeHidden()
    await expect(ribbon(console, 'In hand', 'Carried Caller')).toContainText('talking')
  })
})

test.describe('taking', () => {
  test('a call is quieted, refused for oneself, and still there for the other operator', async ({ console, stage, browser }) => {
    const other = await stage.open(browser, 'tomas')
    await stage.cast.ring('Unwanted Caller')
    await more(console, 'Unwanted Caller', 'Quiet')
    await expect(ribbon(console, 'Arriving', 'Unwanted Caller')).toBeVisible()
    await more(console, 'Unwanted Caller', 'Leave it to the others')
    await expect(ribbon(console, 'Arriving', 'Unwanted Caller')).toBeHidden()
    await other.getByRole('button', { name: 'Answer Unwanted Caller' }).click()
    await expect(ribbon(other, 'In hand', 'Unwanted Caller')).toContainText('talking')
    await other.context().close()
  })

  test('muted, and digits sent as a prepared string', async ({ console, stage }) => {
    await inHand(console, stage, 'Digit Caller')
    await console.keyboard.press('F2')
    await expect(ribbon(console, 'In hand', 'Digit Caller')).toContainText('you are muted')
    await console.keyboard.press('F2')
    await expect(ribbon(console, 'In hand', 'Digit Caller')).not.toContainText('you are muted')
    await console.keyboard.press('F9')
    const sheet = console.getByRole('dialog', { name: 'Send digits' })
    await expect(sheet.getByLabel('Digits to send')).toBeFocused()
    await console.keyboard.type('12,,34#')
    await console.keyboard.press('Enter')
    await expect(sheet.getByText('Sent 12,,34#')).toBeVisible()
    await sheet.getByRole('button', { name: '5' }).click()
    await expect(sheet.getByText('Sent 12,,34#5')).toBeVisible()
  })

  test('a nuisance is blocked with a reason, hears so, and the block is lifted', async ({ console, stage }) => {
    const call = await stage.cast.ring('Nuisance', { from: '+447700900999' })
    await expect(ribbon(console, 'Arriving', 'Nuisance')).toBeVisible()
    await console.keyboard.press('Enter')
    await more(console, 'Nuisance', 'Block this number…')
    await console.getByLabel('Reason').fill('rings every morning')
    await console.getByRole('button', { name: 'Block the number' }).click()
    await expect.poll(() => [...stage.cast.state.blocked.keys()]).toContain('+447700900999')
    await stage.cast.hangUp(call)
    expect(
      await stage.cast.ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900999', name: null }, number: '+441632960000' }),
    ).not.toHaveProperty('refusal')
    await console.getByRole('link', { name: 'Call log' }).click()
    await console.getByRole('link', { name: 'Blocked numbers' }).click()
    await expect(console.getByRole('heading', { level: 1, name: 'Blocked numbers' })).toBeVisible()
    await expect(console.getByRole('row').filter({ hasText: '07700 900999' })).toContainText('rings every morning')
    await console.getByRole('button', { name: 'Lift the block of 07700 900999' }).click()
    await expect(console.getByText('No number is blocked.')).toBeVisible()
    await console.getByRole('link', { name: 'Call log' }).click()
    await expect(console.getByRole('row').filter({ hasText: 'blocked: not taken' })).toHaveCount(1)
  })

  test('a line is not served for a while: its calls go to the others', async ({ console, stage, browser }) => {
    const other = await stage.open(browser, 'tomas')
    await console.getByRole('button', { name: 'Lines served: 4 of 4' }).click()
    await console.getByRole('menuitem', { name: 'Freight line: served' }).click()
    await expect(console.getByRole('menuitem', { name: /Freight line: not served until/ })).toBeVisible()
    await stage.cast.ring('Freight Caller', { to: '+441632960010' })
    await expect(ribbon(other, 'Arriving', 'Freight Caller')).toBeVisible()
    await expect(ribbon(console, 'Arriving', 'Freight Caller')).toBeHidden()
    await console.getByRole('menuitem', { name: /Freight line: not served/ }).click()
    await expect(ribbon(console, 'Arriving', 'Freight Caller')).toBeVisible()
    await other.context().close()
  })

  test('a message is taken down, shown on the telephone, and its reading seen', async ({ console, stage }) => {
    const call = await inHand(console, stage, 'Message Caller')
    await stage.cast.say(call, 'Please tell him the lamps are here.')
    await expect(ribbon(console, 'In hand', 'Message Caller')).toContainText('the lamps are here')
    await name(console, marit.words)
    await console.keyboard.press('F4')
    const sheet = console.getByRole('dialog', { name: 'Take a message' })
    await expect(sheet.getByLabel('Who called')).toHaveValue('Message Caller')
    await expect(sheet.getByLabel('What about')).toHaveValue('Please tell him the lamps are here.')
    await expect(sheet.getByLabel('What about')).toBeFocused()
    await sheet.getByText('Urgent').click()
    await sheet.getByRole('button', { name: 'Leave message' }).click()
    await expect(sheet).toBeHidden()

    const handset = await console.context().newPage()
    await handset.goto(`/handset?of=${marit.device}`)
    await expect(handset.getByText('● message')).toBeVisible()
    await console.getByRole('link', { name: 'Messages' }).click()
    await expect(console.getByRole('region', { name: 'Taken down by you' }).getByRole('listitem').filter({ hasText: 'Message Caller' })).toContainText(
      'Not read yet',
    )
    await handset.getByRole('button', { name: 'Mark as read: the message of Message Caller' }).click()
    await expect(console.getByRole('region', { name: 'Taken down by you' }).getByRole('listitem').filter({ hasText: 'Message Caller' })).toContainText('Read ')
    await handset.close()
  })

  test('what became of a call is told in its story', async ({ console, stage }) => {
    await inHand(console, stage, 'Story Caller')
    await console.keyboard.press('Space')
    await expect(ribbon(console, 'In hand', 'Story Caller')).toContainText('on hold')
    await console.getByRole('button', { name: 'The story of Story Caller' }).click()
    const sheet = console.getByRole('dialog', { name: 'The story of Story Caller' })
    await expect(sheet.getByText('Ines Quillfeather put the call on hold')).toBeVisible()
    await console.keyboard.press('Escape')
    await expect(sheet).toBeHidden()
  })
})

test('calling out: a tel: link fills the field, an account code goes to the log, and it is dialled again', async ({ console }) => {
  await console.goto('/?dial=tel:+442079460777')
  await expect(console.getByRole('button', { name: 'calls 020 7946 0777' })).toBeVisible()
  await console.getByLabel('Account code for this call').fill('K-114')
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', '020 7946 0777')).toContainText('Calling out')
  await console.keyboard.press('Escape')
  await console.getByRole('combobox', { name: 'Who is it for?' }).press('Delete')
  await expect(console.getByText(/^No call in hand\./)).toBeVisible()
  await expect.poll(async () => {
    const { rows } = await (await console.request.get('/api/calls?kind=dialled&text=K-114')).json() as { rows: { account: string }[] }
    return rows[0]?.account
  }).toBe('K-114')
  await console.getByRole('button', { name: 'Redial' }).click()
  await console.getByRole('menuitem', { name: '020 7946 0777' }).click()
  await expect(ribbon(console, 'In hand', '020 7946 0777')).toContainText('ringing')
})

test('an operator closes the browser with a caller on hold: after a while the others are offered the call', async ({ stage, browser, console }) => {
  const other = await stage.open(browser, 'tomas')
  await stage.cast.ring('Left Behind')
  await other.getByRole('button', { name: 'Answer Left Behind' }).click()
  await other.getByRole('button', { name: 'Hold Left Behind' }).click()
  await expect(ribbon(other, 'In hand', 'Left Behind')).toContainText('on hold')
  await other.context().close()
  await expect(ribbon(console, 'Arriving', 'Left Behind')).toContainText('Tomas Arkwell has gone and left the caller on hold')
})

test('a person at a stand-in handset plays caller and colleague; nobody simulated answers meanwhile', async ({ console, stage }) => {
  const outside = await console.context().newPage()
  await outside.goto('/handset?of=outside')
  await outside.getByLabel('Name shown').fill('Handset Caller')
  await outside.getByRole('button', { name: 'Call', exact: true }).click()
  await expect(ribbon(console, 'Arriving', 'Handset Caller')).toBeVisible()
  await expect(outside.getByText('It rings. “Please wait')).toBeVisible()
  await console.getByRole('button', { name: 'Answer Handset Caller' }).click()
  await outside.getByLabel('Say something').fill('Good morning, lost property please.')
  await outside.getByRole('button', { name: 'Say', exact: true }).click()
  await expect(ribbon(console, 'In hand', 'Handset Caller')).toContainText('“Good morning, lost property please.”')
  await console.getByRole('button', { name: 'Hold Handset Caller' }).click()
  await expect(outside.getByText('♪ Music: you are on hold.')).toBeVisible()
  await console.getByRole('button', { name: 'Take back Handset Caller' }).click()

  const colleague = await console.context().newPage()
  await colleague.goto(`/handset?of=${marit.device}`)
  await expect.poll(() => stage.cast.state.devices.get(marit.device)!.handset).toBe(true)
  await console.bringToFront()
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await name(console, marit.words)
  await console.keyboard.press('Enter')
  await colleague.getByRole('button', { name: 'Answer' }).click()
  await expect(colleague.getByRole('article', { name: 'Call with Handset Caller' })).toContainText('talking')
  await expect(outside.getByText(`You are talking to ${marit.words}.`)).toBeVisible()
  await colleague.close()
  await expect.poll(() => stage.cast.state.devices.get(marit.device)!.handset).toBe(false)
  await outside.getByRole('button', { name: 'Hang up' }).click()
  await outside.close()
})

test('several handsets stand side by side in one tab, the outside caller\'s too, and each is put down by itself', async ({ console, stage }) => {
  const other = dunstan
  const held = (device: string) => expect.poll(() => stage.cast.state.devices.get(device)!.handset)
  const table = await console.context().newPage()
  await table.goto(`/handset?of=${marit.device}&of=outside`)
  await held(marit.device).toBe(true)
  await table.getByRole('combobox', { name: 'Whose handset?' }).fill(other.words)
  await table.getByRole('option', { name: other.words }).click()
  await held(other.device).toBe(true)
  const [first, second] = [marit, other].map(({ words }) => table.getByRole('region', { name: `Handset of ${words}` }))

  // Two colleagues talk; a caller outside is passed from one to the other with the keys of the telephone.
  await table.getByLabel('Name shown').fill('Side By Side')
  await table.getByRole('button', { name: 'Call', exact: true }).click()
  await expect(ribbon(console, 'Arriving', 'Side By Side')).toBeVisible()
  await console.getByRole('button', { name: 'Answer Side By Side' }).click()
  await name(console, marit.words)
  await console.keyboard.press('Enter')
  await first!.getByRole('button', { name: 'Answer' }).click()
  await expect(first!.getByRole('article', { name: 'Call with Side By Side' })).toContainText('talking')
  for (const digit of other.extension) await first!.getByRole('button', { name: digit, exact: true }).click()
  await expect(first!.getByLabel('Number', { exact: true })).toHaveValue(other.extension)
  await first!.getByRole('button', { name: 'Pass on' }).click()
  await second!.getByRole('button', { name: 'Answer' }).click()
  await expect(second!.getByRole('article', { name: 'Call with Side By Side' })).toContainText('talking')
  await expect(first!).toContainText('Nothing rings.')
  await table.getByRole('region', { name: 'Telephone outside' }).getByRole('button', { name: 'Hang up' }).click()

  await table.getByRole('button', { name: `Put down the handset of ${marit.words}` }).click()
  await held(marit.device).toBe(false)
  expect(stage.cast.state.devices.get(other.device)!.handset).toBe(true)
  await table.close()
  await held(other.device).toBe(false)
})

test('a staff member may use their own telephone and nobody else\'s, and sees who calls them but nobody else', async ({ stage, browser }) => {
  const context = await browser.newContext({ baseURL: stage.url })
  const page = await context.newPage()
  await page.goto('/sign-in')
  await page.getByLabel('Sign-in name').fill('staff')
  await page.getByLabel('Password').fill('hand-me-over')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('link', { name: 'Handset' }).click()
  const [own] = Object.values(stage.cast.state.company.telephones).slice(140, 141)
  await stage.cast.ring('For Staff', { to: own!.direct! })
  await expect(page.getByRole('article', { name: 'Call with For Staff' })).toContainText('rings')
  const band = page.getByRole('region', { name: 'Calls' })
  await expect(band).toContainText('For Staff waiting')
  await page.getByRole('button', { name: 'Answer', exact: true }).click()
  await expect(band).toContainText('For Staff in hand')
  await expect(page.getByRole('article', { name: 'Call with For Staff' })).toContainText('talking')
  expect((await page.request.get('/api/parkings')).status()).toBe(403)
  expect(await (await page.request.get(`/api/messages?handset=${own!.id}`)).json()).toEqual({ received: [], written: [] })
  expect(
    (await page.request.post('/api/messages', { data: { to: 't2150', caller: null, number: null, text: 'x', urgent: false, callBack: false } })).status(),
  ).toBe(403)
  await context.close()
  await stage.cast.clearTheStage()
})
