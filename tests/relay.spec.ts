import { feedVersion } from '../shared/beat'
import { expect, ribbon, test } from './stage'

const marit = { device: 't2150', extension: '2150', words: '' }

test.beforeEach(async ({ stage }) => {
  marit.words = stage.cast.state.company.telephones[marit.device]!.name
})

test('a call comes in, is answered with its greeting, heard, passed on by name and taken', async ({ console, stage }) => {
  const call = await stage.cast.ring('Odette Farrowmere', { to: '+441632960010' })
  const arriving = ribbon(console, 'Arriving', 'Odette Farrowmere')
  await expect(arriving).toContainText('Freight line')
  await expect(arriving).toContainText('07700 900123')
  await expect(console).toHaveTitle('(1) Estafette')

  await console.keyboard.press('Enter')
  const inHand = ribbon(console, 'In hand', 'Odette Farrowmere')
  await expect(inHand).toContainText(/Good (morning|afternoon|evening), Merrowby Freight, how can I help\?/)
  await stage.cast.say(call, 'I have a lorry full of lamps.')
  await expect(inHand).toContainText('“I have a lorry full of lamps.”')

  await console.keyboard.type(marit.words)
  await expect(console.getByRole('option').first()).toContainText(marit.words)
  await expect(console.getByRole('button', { name: `passes Odette Farrowmere on to ${marit.words}` })).toBeVisible()
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'Passed on', 'Odette Farrowmere')).toContainText(`rings at ${marit.words}`)
  await expect(console.getByRole('combobox')).toHaveValue('')

  await stage.cast.answer(marit.device, call)
  await expect(ribbon(console, 'Passed on', `${marit.words} took it: Odette Farrowmere is talking to`)).toBeVisible()
  await expect(console.getByRole('log')).toContainText('took it')
  await expect(console.getByRole('button', { name: new RegExp(`^${marit.words}\\. Talking with Odette Farrowmere`) })).toBeVisible()
})

test('an unanswered transfer comes back with its story, and is answered again', async ({ console, stage }) => {
  await stage.cast.ring('Piet Lanthorn')
  await console.getByRole('button', { name: 'Answer Piet Lanthorn' }).click()
  await console.keyboard.type(marit.words)
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'Passed on', 'Piet Lanthorn')).toBeVisible()
  const back = ribbon(console, 'Arriving', 'Piet Lanthorn')
  await expect(back).toContainText(`Back: ${marit.words} did not answer, 1 ring`)
  await expect(console.getByRole('log')).toContainText(`Back: Piet Lanthorn. ${marit.words} did not answer`)
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', 'Piet Lanthorn')).toContainText('did not answer')
})

test('by mouse alone: answer, hold, take back, choose a window of the floor, pass on', async ({ console, stage }) => {
  const call = await stage.cast.ring('Gesa Tidemark')
  await console.getByRole('button', { name: 'Answer Gesa Tidemark' }).click()
  await console.getByRole('button', { name: 'Hold Gesa Tidemark' }).click()
  await expect(ribbon(console, 'In hand', 'Gesa Tidemark')).toContainText('on hold')
  await console.getByRole('button', { name: 'Take back Gesa Tidemark' }).click()
  await expect(ribbon(console, 'In hand', 'Gesa Tidemark')).toContainText('talking')
  await console.getByRole('button', { name: new RegExp(`^${marit.words}\\. .*\\b${marit.extension}, `) }).click()
  await console.getByRole('button', { name: `passes Gesa Tidemark on to ${marit.words}` }).click()
  await expect(ribbon(console, 'Passed on', 'Gesa Tidemark')).toBeVisible()
  await stage.cast.ask({ service: 'clearConnection', device: marit.device, call })
  await expect(ribbon(console, 'Arriving', 'Gesa Tidemark')).toContainText(`Back: ${marit.words} declined`)
})

test('answering a second caller puts the first on hold; ending needs a second press and never ends who is on hold', async ({ console, stage }) => {
  await stage.cast.ring('First Caller')
  await console.getByRole('button', { name: 'Answer First Caller' }).click()
  await stage.cast.ring('Second Caller')
  await console.getByRole('button', { name: 'Answer Second Caller' }).click()
  await expect(ribbon(console, 'In hand', 'First Caller')).toContainText('on hold')
  await expect(ribbon(console, 'In hand', 'Second Caller')).toContainText('talking')

  await console.keyboard.press('Delete')
  await expect(console.getByRole('button', { name: 'End the call with Second Caller: press again' })).toBeVisible()
  await expect(ribbon(console, 'In hand', 'Second Caller')).toBeVisible()
  await console.keyboard.press('Delete')
  await expect(ribbon(console, 'In hand', 'Second Caller')).toBeHidden()
  await expect(ribbon(console, 'In hand', 'First Caller')).toContainText('on hold')
  await console.keyboard.press('Space')
  await expect(ribbon(console, 'In hand', 'First Caller')).toContainText('talking')
})

test('a transfer to somebody who is on the telephone is refused in words, with the caller still in hand', async ({ console, stage }) => {
  await stage.cast.ask({ service: 'makeCall', device: marit.device, number: 't2151' })
  await stage.cast.ring('Ulf Harbourne')
  await console.getByRole('button', { name: 'Answer Ulf Harbourne' }).click()
  await console.keyboard.type(marit.words)
  await console.keyboard.press('Enter')
  await expect(console.getByRole('alert').filter({ hasText: `${marit.words} is on the telephone. Your caller is still with you.` })).toBeVisible()
  await expect(ribbon(console, 'In hand', 'Ulf Harbourne')).toContainText('talking')
  await expect(console.getByRole('combobox')).toHaveValue(marit.words)
})

test('without a call in hand Enter calls the person, or the number that was typed', async ({ console, stage }) => {
  await console.keyboard.type(marit.words)
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', marit.words)).toContainText('ringing')
  const [id] = [...stage.cast.state.calls.keys()]
  await stage.cast.answer(marit.device, id!)
  await expect(ribbon(console, 'In hand', marit.words)).toContainText('talking')
  await console.keyboard.press('Delete')
  await console.keyboard.press('Delete')
  await expect(ribbon(console, 'In hand', marit.words)).toBeHidden()

  await console.keyboard.type('020 7946 0958')
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', '020 7946 0958')).toContainText('Calling out')
})

test('the arrow keys choose which caller Enter answers', async ({ console, stage }) => {
  await stage.cast.ring('Older Caller')
  await stage.cast.ring('Younger Caller')
  await expect(console.getByRole('button', { name: 'answers Older Caller' })).toBeVisible()
  await expect(ribbon(console, 'Arriving', 'Younger Caller')).toBeVisible()
  await console.keyboard.press('ArrowDown')
  await expect(console.getByRole('button', { name: 'answers Younger Caller' })).toBeVisible()
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', 'Younger Caller')).toBeVisible()
  await expect(ribbon(console, 'Arriving', 'Older Caller')).toBeVisible()
})

test('own status is seen by everybody at once, with its reason', async ({ console, stage, browser }) => {
  const other = await stage.open(browser, 'tomas')
  await console.getByRole('button', { name: /^Own status/ }).click()
  await console.getByRole('menuitem', { name: 'lunch for 30 minutes' }).click()
  await expect(console.getByRole('button', { name: /Own status: Away: lunch until/ })).toBeVisible()
  await expect(other.getByRole('button', { name: /^Ines Quillfeather\. Away, lunch until.*\b2100, / })).toBeVisible()
  await console.getByRole('button', { name: /^Own status/ }).click()
  await console.getByRole('menuitem', { name: 'Available', exact: true }).click()
  await expect(other.getByRole('button', { name: /^Ines Quillfeather\. Free.*\b2100, / })).toBeVisible()
  await other.context().close()
})

test('nobody signs out with a caller in hand', async ({ console, stage }) => {
  await stage.cast.ring('Kept Caller')
  await console.getByRole('button', { name: 'Answer Kept Caller' }).click()
  await expect(ribbon(console, 'In hand', 'Kept Caller')).toBeVisible()
  await console.getByRole('button', { name: 'Sign out' }).click()
  await expect(console.getByRole('alert').filter({ hasText: 'You still have a call' })).toBeVisible()
  await expect(ribbon(console, 'In hand', 'Kept Caller')).toBeVisible()
})

test('two operators: one answers, the other sees it at once and is refused kindly when late', async ({ console, stage, browser }) => {
  const other = await stage.open(browser, 'tomas')
  await stage.cast.ring('Wanted Caller')
  await expect(ribbon(console, 'Arriving', 'Wanted Caller')).toBeVisible()
  await expect(ribbon(other, 'Arriving', 'Wanted Caller')).toBeVisible()
  // Tomas presses before he can see that Ines was quicker: his request is under way meanwhile.
  const answered = ribbon(console, 'In hand', 'Wanted Caller').waitFor()
  await other.route('**/api/requests', async (route) => {
    await answered
    await route.continue()
  })
  await other.getByRole('button', { name: 'Answer Wanted Caller' }).click()
  await console.getByRole('button', { name: 'Answer Wanted Caller' }).click()
  await expect(ribbon(other, 'Arriving', 'Wanted Caller')).toBeHidden()
  await expect(other.getByRole('alert').filter({ hasText: 'That call is with Ines Quillfeather now' })).toBeVisible()
  await expect(ribbon(console, 'In hand', 'Wanted Caller')).toContainText('talking')
  await other.context().close()
})

test('the log tells what became of every call, and filters', async ({ console, stage }) => {
  const answered = await stage.cast.ring('Logged Answered', { from: '+447700900321' })
  await console.getByRole('button', { name: 'Answer Logged Answered' }).click()
  await console.keyboard.type(marit.words)
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'Passed on', 'Logged Answered')).toBeVisible()
  await stage.cast.answer(marit.device, answered)
  await stage.cast.hangUp(answered)
  const missed = await stage.cast.ring('Logged Missed')
  await expect(ribbon(console, 'Arriving', 'Logged Missed')).toBeVisible()
  await stage.cast.hangUp(missed)
  await expect(ribbon(console, 'Arriving', 'Logged Missed')).toBeHidden()

  await console.getByRole('link', { name: 'Call log' }).click()
  const row = (text: string) => console.getByRole('row').filter({ hasText: text }).first()
  await expect(row('Logged Missed')).toContainText('Missed: nobody answered')
  await expect(row('Logged Answered')).toContainText(`Ines Quillfeather, then ${marit.words}`)
  await console.getByRole('button', { name: 'Story of the call with Logged Answered' }).click()
  const details = console.getByRole('complementary', { name: 'The chosen call' })
  await expect(details).toContainText(`Ines Quillfeather passed it on to ${marit.words}`)

  await console.getByLabel('Filter by number, name or extension').fill('07700 900321')
  await expect(row('Logged Missed')).toBeHidden()
  await expect(row('Logged Answered')).toBeVisible()
  await console.getByLabel('Filter by number, name or extension').fill('')
  await console.getByRole('radio', { name: 'Missed' }).check({ force: true })
  await expect(row('Logged Missed')).toBeVisible()
  await expect(row('Logged Answered')).toBeHidden()
  await console.getByLabel('Filter by number, name or extension').fill('100%_nobody')
  await expect(console.getByText('No call fits.')).toBeVisible()
})

test('a missed call stands out until somebody has dealt with it, seen by all; who gave up on hold was missed too', async ({ console, stage, browser }) => {
  const missed = await stage.cast.ring('Missed Caller', { from: '+441632960888' })
  await expect(ribbon(console, 'Arriving', 'Missed Caller')).toBeVisible()
  await stage.cast.hangUp(missed)
  const held = await stage.cast.ring('Patient Caller')
  await console.getByRole('button', { name: 'Answer Patient Caller' }).click()
  await console.getByRole('button', { name: 'Hold Patient Caller' }).click()
  await expect(ribbon(console, 'In hand', 'Patient Caller')).toContainText('on hold')
  await stage.cast.hangUp(held)

  const other = await stage.open(browser, 'tomas')
  for (const page of [console, other]) {
    await page.getByRole('link', { name: 'Call log' }).click()
    await page.getByRole('radio', { name: 'Missed' }).check({ force: true })
  }
  const row = (page: typeof console, text: string) => page.getByRole('row').filter({ hasText: text }).first()
  await expect(row(console, 'Patient Caller')).toContainText('gave up waiting, after Ines Quillfeather had answered')
  await console.getByRole('button', { name: 'Story of the call with Patient Caller' }).click()
  await console.getByRole('button', { name: 'Dealt with' }).click()
  await expect(row(other, 'Patient Caller')).toContainText('dealt with by Ines Quillfeather')
  await console.getByRole('button', { name: 'Story of the call with Missed Caller' }).click()
  await console.getByRole('button', { name: 'Call Missed Caller' }).click()
  await expect(console.getByRole('region', { name: 'Calls' })).toContainText('01632 960888 in hand')
  await expect(row(other, 'Missed Caller')).toContainText('called back by Ines Quillfeather')
  await other.context().close()
})

test('a page of another version than its server is loaded again once, and says so where that does not help', async ({ stage, browser }) => {
  const page = await stage.open(browser, 'ines')
  let isOld = true
  let loads = 0
  page.on('load', () => loads++)
  await page.routeWebSocket(/\/api\/feed/, (socket) => {
    const server = socket.connectToServer()
    socket.onMessage(text => server.send(isOld ? String(text).replace(`"version":${feedVersion}`, `"version":${feedVersion - 1}`) : text))
  })
  await page.reload()
  await expect(page.getByText('This page is of another version than its server')).toBeVisible()
  await expect.poll(() => loads).toBe(2)
  isOld = false
  await expect(page.getByText('This page is of another version than its server')).toBeHidden()
  await expect(page.getByRole('button', { name: /^Ines Quillfeather\. / })).toBeVisible()
  expect(loads).toBe(2)
  // Whoever names none is told only that they have to come again.
  const told = await page.evaluate(() => new Promise<string>((resolve) => {
    const socket = new WebSocket(`${location.origin.replace('http', 'ws')}/api/feed`)
    socket.onopen = () => socket.send('{"type":"hello"}')
    socket.onmessage = ({ data }) => resolve(String(data))
  }))
  expect(JSON.parse(told)).toEqual({ type: 'over' })
  await page.context().close()
})
