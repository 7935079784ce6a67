import { alone, expect } from './stage'

/** Callers whom we promise to call back. */
const test = alone({ exchangeArgs: ['--clock', '2031-05-12T08:00:00Z'] })

test('a caller leaves their place by a key; a member is rung, then the caller, and it is done', async ({ own, browser }) => {
  const { cast } = own
  const ines = await own.open(browser, 'ines')
  const table = await ines.context().newPage()
  await table.goto('/handset?of=outside')
  const outside = table.getByRole('region', { name: 'Telephone outside' })
  await outside.getByLabel('Name shown').fill('Odd <b>Hasp</b>')
  await outside.getByLabel('Number shown').fill('07700 900444')
  await outside.getByRole('combobox', { name: 'Dials' }).fill('Booking')
  await table.getByRole('option', { name: /^Booking line/ }).click()
  await outside.getByRole('button', { name: 'Call', exact: true }).click()
  const call = outside.getByRole('article', { name: 'Call of Odd <b>Hasp</b>' })
  await expect(call).toContainText('To be called back, press 1.')
  await call.getByRole('button', { name: 'Press 1' }).click()
  await expect(outside).toContainText('07700 900444: “Your place is kept. We call you back.”')
  await expect(ines.getByRole('log', { name: 'What happens' })).toContainText('Odd <b>Hasp</b> is to be called back by the Reservations queue')

  await ines.getByRole('link', { name: /^Call-backs/ }).click()
  const row = ines.getByRole('row').filter({ hasText: 'Odd <b>Hasp</b>' })
  await expect(row).toContainText(/rings at \w+/)
  const prompt = () => [...cast.state.calls.values()].find(({ callBack }) => callBack)!
  const { device: member } = prompt().connections[0]!
  await cast.answer(member, prompt().id)
  await expect(row).toContainText('is calling them')
  await cast.answer(prompt().connections.find(({ party }) => party)!.device, prompt().id)
  await expect(ines.getByText('Nobody is promised a call-back.')).toBeVisible()
  await ines.getByText('Done', { exact: true }).click()
  await expect(row).toContainText('called back by')
  // In the log, and in the table of what was promised.
  await ines.getByRole('link', { name: 'Call log' }).click()
  await expect(ines.getByRole('row').filter({ hasText: 'left, to be called back' })).toHaveCount(1)
  await expect.poll(async () => own.sql('select "end", tries, number, ended_by from call_back')).toEqual([
    { end: 'reached', tries: 1, number: '+447700900444', ended_by: member },
  ])
})

test('whom we have missed is promised a call-back by one action; it outlives the exchange, and is tried again until it ends with a word', async ({ own,
  browser }) => {
  const { cast } = own
  const ines = await own.open(browser, 'ines')
  const missed = await cast.ring('Milo Tarn', { from: '+447700900555', to: '+441632960000' })
  await cast.hangUp(missed)
  await ines.getByRole('link', { name: 'Call log' }).click()
  await ines.getByRole('button', { name: 'Promise Milo Tarn a call-back' }).click()
  await expect(ines.getByText(/^Dealt with by Ines Quillfeather/)).toBeVisible()
  await ines.getByRole('link', { name: 'Promised a call-back' }).click()
  const row = ines.getByRole('row').filter({ hasText: 'Milo Tarn' })
  const details = ines.getByRole('complementary', { name: 'The chosen call-back' })
  await expect(row).toContainText('for whoever takes it')
  await details.getByRole('button', { name: 'I do it' }).click()
  await expect(row).toContainText('Ines Quillfeather has it')

  const keepsIt = async () => {
    await details.getByRole('button', { name: 'Call Milo Tarn back now' }).click()
    await expect(row).toContainText('Ines Quillfeather is calling them')
    cast.advance(30_000)
    await expect.poll(() => [...cast.state.calls.values()].some(({ failed }) => failed)).toBe(true)
    cast.advance(5_000)
  }
  await keepsIt()
  await expect(row).toContainText('did not answer, again at')
  await expect.poll(async () => own.sql('select tries, "end" from call_back')).toEqual([{ tries: 1, end: null }])

  own.stack.exchange!.kill('SIGKILL')
  await expect(ines.getByRole('alert').filter({ hasText: 'The telephone exchange does not answer' })).toBeVisible()
  await own.stack.startExchange()
  await expect(ines.getByRole('alert').filter({ hasText: 'The telephone exchange' })).toBeHidden()
  await expect(row).toContainText('did not answer, again at')
  await expect(details).toContainText('Rung once.')
  // Calls again meanwhile: whoever answers knows.
  const again = await cast.ring('Milo Tarn', { from: '+447700900555' })
  await expect(ines.getByRole('log', { name: 'What happens' })).toContainText('Milo Tarn, promised a call-back')
  await ines.getByRole('link', { name: 'Console', exact: true }).click()
  await expect(ines.getByRole('list', { name: 'Open with this caller' })).toContainText('To be called back by Operators: on the line with us.')
  await cast.hangUp(again)
  await ines.getByRole('link', { name: /^Call-backs/ }).click()

  await details.getByRole('button', { name: 'Done otherwise…' }).click()
  await details.getByLabel('A word to them by text, if any').fill('We have sent the papers.')
  await details.getByRole('button', { name: 'End the call-back' }).click()
  await expect(ines.getByText('Nobody is promised a call-back.')).toBeVisible()
  await ines.getByText('Done', { exact: true }).click()
  await expect(row).toContainText('ended by Ines Quillfeather')
  await expect(details).toContainText('They were told by text: “We have sent the papers.”')
  await expect.poll(async () => own.sql('select "end", word from call_back')).toEqual([{ end: 'withdrawn', word: 'We have sent the papers.' }])
})

test('two operators who call somebody back at once: one does, the other is told', async ({ own, browser }) => {
  const { cast } = own
  await cast.ask({ service: 'promiseCallBack', device: 't2100', number: '07700 900777', name: 'Wanted Once', queue: 'queue:freight' })
  const [ines, tomas] = [await own.open(browser, 'ines'), await own.open(browser, 'tomas')]
  await ines.getByRole('link', { name: /^Call-backs/ }).click()
  // In its turn among those who wait, too.
  await tomas.getByRole('region', { name: 'Queues' }).getByRole('button', { name: /^Freight queue/ }).click()
  await expect(tomas.getByRole('list', { name: 'Who waits' }).getByRole('listitem')).toContainText('to be called back: for whoever takes it')
  const buttons = [ines, tomas].map(page => page.getByRole('button', { name: 'Call Wanted Once back now' }))
  await Promise.all(buttons.map(button => button.click()))
  await expect.poll(() => [...cast.state.calls.values()].filter(({ callBack }) => callBack).length).toBe(1)
  const by = [...cast.state.calls.values()].find(({ callBack }) => callBack)!.calling
  await expect((by === 't2100' ? tomas : ines).getByText(/is calling them back at this moment\./).first()).toBeVisible()
})

test('the server is killed while we call somebody back: the call goes on, what was promised is done, once, and kept', async ({ own, browser }) => {
  const { cast } = own
  await cast.ask({ service: 'promiseCallBack', device: 't2100', number: '07700 900778', name: 'Called Meanwhile', queue: 'queue:freight' })
  const ines = await own.open(browser, 'ines')
  await ines.getByRole('link', { name: /^Call-backs/ }).click()
  await ines.getByRole('button', { name: 'Call Called Meanwhile back now' }).click()
  const row = ines.getByRole('row').filter({ hasText: 'Called Meanwhile' })
  await expect(row).toContainText('Ines Quillfeather is calling them')

  own.stack.server!.kill('SIGKILL')
  await expect(ines.getByRole('alert').filter({ hasText: 'No connection to the server' })).toBeVisible()
  await expect(ines.getByRole('button', { name: 'Call Called Meanwhile back now' })).toBeDisabled()
  const call = [...cast.state.calls.values()].find(({ callBack }) => callBack)!
  await cast.answer(call.connections.find(({ party }) => party)!.device, call.id)
  await own.stack.startServer()

  await expect(ines.getByRole('alert').filter({ hasText: 'No connection' })).toBeHidden()
  await expect(ines.getByText('Nobody is promised a call-back.')).toBeVisible()
  expect([...cast.state.calls.keys()]).toEqual([call.id])
  await ines.getByText('Done', { exact: true }).click()
  await expect(row).toContainText('called back by Ines Quillfeather')
  await expect.poll(async () => own.sql('select "end", tries, ended_by from call_back')).toEqual([{ end: 'reached', tries: 1, ended_by: 't2100' }])
})
