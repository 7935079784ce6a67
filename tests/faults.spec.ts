import { expectMadeAgain } from './made-again'
import { alone, expect, ribbon, type Stage } from './stage'

/** Real processes are killed here: every test has a stage to itself. */
const test = alone({ settings: { absence: 15_000 } })

const colleague = 't2150'
interface Row { outcome: string, name: string, ended_at: Date | null, story: { type: string }[] }

async function records(stage: Stage): Promise<Row[]> {
  return stage.sql<Row>('select outcome, name, ended_at, story from call_record order by started_at')
}

test('the server killed while callers ring, talk and are passed on: the same calls, the same timers, complete records', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const other = await own.open(browser, 'tomas')
  const passed = await own.cast.ring('Passed Caller')
  await page.getByRole('button', { name: 'Answer Passed Caller' }).click()
  await page.keyboard.type(own.cast.state.company.telephones[colleague]!.name)
  await page.keyboard.press('Enter')
  await expect(ribbon(page, 'Passed on', 'Passed Caller')).toBeVisible()
  const talked = await own.cast.ring('Talking Caller')
  await page.getByRole('button', { name: 'Answer Talking Caller' }).click()
  await expect(ribbon(page, 'In hand', 'Talking Caller')).toBeVisible()
  const waited = await own.cast.ring('Waiting Caller')
  await expect(ribbon(page, 'Arriving', 'Waiting Caller')).toBeVisible()
  const before = own.cast.state

  own.stack.server!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'No connection to the server' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Answer Waiting Caller' })).toBeDisabled()
  // While the server is away the colleague answers, and one more caller comes and goes.
  await own.cast.answer(colleague, passed)
  const unseen = await own.cast.ring('Unseen Caller')
  await own.cast.hangUp(unseen)
  await own.stack.startServer()

  // What happened while the server was away is told afterwards.
  await expect(ribbon(page, 'Passed on', 'Passed Caller')).toContainText('took it')
  for (const console of [page, other]) {
    await expect(console.getByRole('alert').filter({ hasText: 'No connection' })).toBeHidden()
    await expect(ribbon(console, 'Arriving', 'Waiting Caller')).toBeVisible()
  }
  await expect(ribbon(page, 'In hand', 'Talking Caller')).toBeVisible()
  expect(own.cast.state.calls.get(waited)).toEqual(before.calls.get(waited))

  await page.getByRole('button', { name: 'Answer Waiting Caller' }).click()
  await expect(ribbon(page, 'In hand', 'Talking Caller')).toContainText('on hold')
  for (const call of [passed, talked, waited]) await own.cast.hangUp(call)
  await expect.poll(async () => (await records(own)).map(row => `${row.name} ${row.outcome} ${row.ended_at !== null}`)).toEqual([
    'Passed Caller answered true', 'Talking Caller gaveUp true', 'Waiting Caller answered true', 'Unseen Caller missed true',
  ])
  const [{ count, last }] = (await own.sql<{ count: number, last: number }>('select count(*)::int as count, max(seq) as last from journal')) as [
    { count: number, last: number },
  ]
  expect(count, 'no event is missing').toBe(last)
  expect(last).toBe(own.cast.state.seq)
  await expectMadeAgain(own)
})

test('the server killed soon after the exchange began, while a caller is parked: still parked, also in what is written down', async ({ own }) => {
  own.cast.present(['t2100'])
  const call = await own.cast.ring('Parked Caller')
  await own.cast.ask({ service: 'answerCall', device: 't2100', call })
  await own.cast.ask({ service: 'parkCall', device: 't2100', call, slot: null, for: null })
  expect(own.cast.state.seq).toBeLessThan(250)
  await expect.poll(() => own.sql('select "end" from parking')).toEqual([{ end: 'waiting' }])
  own.stack.server!.kill('SIGKILL')
  await own.stack.startServer()
  await own.cast.ring('Next Caller')
  await expect.poll(async () => (await own.sql('select id from call_record')).length).toBe(2)
  expect(await own.sql('select "end" from parking')).toEqual([{ end: 'waiting' }])
  await own.cast.ask({ service: 'directedPickupCall', device: 't2100', call })
  await expect.poll(() => own.sql('select "end" from parking')).toEqual([{ end: 'taken' }])
  await expectMadeAgain(own)
})

test('the server killed during a conference and a consultation: the same people in them afterwards', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const words = own.cast.state.company.telephones[colleague]!.name
  const call = await own.cast.ring('Conference Caller')
  await page.getByRole('button', { name: 'Answer Conference Caller' }).click()
  await expect(ribbon(page, 'In hand', 'Conference Caller')).toContainText('talking')
  await page.keyboard.type(words)
  await page.keyboard.press('Shift+Enter')
  await own.cast.answer(colleague, await own.cast.ringingAt(colleague))
  await expect(ribbon(page, 'In hand', 'Asking for')).toContainText('talking')

  own.stack.server!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'No connection to the server' })).toBeVisible()
  await own.stack.startServer()
  await expect(page.getByRole('alert').filter({ hasText: 'No connection' })).toBeHidden()
  await expect(ribbon(page, 'In hand', 'Asking for Conference Caller')).toContainText('talking')
  await page.keyboard.press('F8')
  await expect(ribbon(page, 'In hand', 'Conference').first()).toContainText('Leave')

  own.stack.server!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'No connection to the server' })).toBeVisible()
  await own.stack.startServer()
  await expect(page.getByRole('alert').filter({ hasText: 'No connection' })).toBeHidden()
  await expect(ribbon(page, 'In hand', 'Conference').first()).toContainText('Leave')
  expect(own.cast.state.calls.get(call)!.connections.filter(({ state }) => state === 'connected')).toHaveLength(3)
  await own.cast.hangUp(call)
  await expect(ribbon(page, 'In hand', 'Conference')).toHaveCount(0)
  await page.keyboard.press('Delete')
  await page.keyboard.press('Delete')
  await expect(page.getByText('No call in hand.')).toBeVisible()
  await expect.poll(async () => (await records(own)).map(row => row.outcome)).toEqual(['answered', 'joined'])
})

test('the browser dies during a consultation: the colleague talks on, and the caller is offered to the other operator', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const other = await own.open(browser, 'tomas')
  await own.cast.ring('Consulted Caller')
  await page.getByRole('button', { name: 'Answer Consulted Caller' }).click()
  await expect(ribbon(page, 'In hand', 'Consulted Caller')).toContainText('talking')
  await page.keyboard.type(own.cast.state.company.telephones[colleague]!.name)
  await page.keyboard.press('Shift+Enter')
  const asking = await own.cast.ringingAt(colleague)
  await own.cast.answer(colleague, asking)
  await page.context().close()
  await expect(ribbon(other, 'Arriving', 'Consulted Caller')).toContainText('Ines Quillfeather has gone and left the caller on hold', { timeout: 40_000 })
  expect(own.cast.state.calls.get(asking)!.connections.map(({ state }) => state)).toEqual(['connected', 'connected'])
  await other.keyboard.press('Enter')
  await expect(ribbon(other, 'In hand', 'Consulted Caller')).toContainText('talking')
})

test('blocked numbers outlive the exchange', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await own.cast.ask({ service: 'blockNumber', device: 't2100', number: '07700 900998', reason: 'never again' })
  await expect.poll(async () => (await own.sql('select 1 from blocked_number')).length).toBe(1)
  own.stack.exchange!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange does not answer' })).toBeVisible()
  await own.stack.startExchange()
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange' })).toBeHidden()
  await page.getByRole('link', { name: 'Call log' }).click()
  await page.getByRole('link', { name: 'Blocked numbers' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Blocked numbers' })).toBeVisible()
  await expect(page.getByRole('row').filter({ hasText: '07700 900998' })).toContainText('never again')
})

test('a browser offline in mid-call says so large, and has the same picture afterwards; a reload loses nothing', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const call = await own.cast.ring('Steady Caller')
  await page.getByRole('button', { name: 'Answer Steady Caller' }).click()
  await own.cast.talks('t2100', call)
  await own.cast.say(call, 'Before the cut.')
  await expect(ribbon(page, 'In hand', 'Steady Caller')).toContainText('Before the cut.')
  await page.reload()
  await expect(ribbon(page, 'In hand', 'Steady Caller')).toContainText('Before the cut.')

  await page.context().setOffline(true)
  await expect(page.getByRole('alert').filter({ hasText: 'No connection to the server' })).toBeVisible({ timeout: 15_000 })
  await expect(page.getByRole('button', { name: 'Hold Steady Caller' })).toBeDisabled()
  await own.cast.say(call, 'Said meanwhile.')
  const newcomer = await own.cast.ring('Newcomer')
  await page.context().setOffline(false)
  await expect(page.getByRole('alert').filter({ hasText: 'No connection' })).toBeHidden({ timeout: 15_000 })
  await expect(ribbon(page, 'In hand', 'Steady Caller')).toContainText('Said meanwhile.')
  await expect(ribbon(page, 'Arriving', 'Newcomer')).toBeVisible()
  expect(own.cast.state.calls.get(newcomer)).toBeDefined()
})

test('the exchange killed: said at once; started again: a clean picture, and the calls it lost are closed in the log as such', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await own.cast.ring('Lost Caller')
  await page.getByRole('button', { name: 'Answer Lost Caller' }).click()
  await expect(ribbon(page, 'In hand', 'Lost Caller')).toBeVisible()

  own.stack.exchange!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange does not answer' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Hold Lost Caller' })).toBeDisabled()
  await own.stack.startExchange()
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange' })).toBeHidden()
  await expect(page.getByText('No call in hand.')).toBeVisible()
  await expect.poll(async () => (await records(own)).map(row => `${row.name} ${row.outcome}`)).toEqual(['Lost Caller lost'])
  await page.getByRole('link', { name: 'Call log' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'Lost Caller' })).toContainText('Lost: the exchange stopped')
  await expectMadeAgain(own)
})

test('PostgreSQL away: calls go on, the journal catches up, nothing is missing', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  // To the server this is a database that vanished: sessions end and no new one is let in.
  const database = (await own.sql<{ name: string }>('select current_database() as name'))[0]!.name
  await own.outside(`alter database "${database}" allow_connections false`)
  await own.outside(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${database}'`)

  const call = await own.cast.ring('Unwritten Caller')
  await page.getByRole('button', { name: 'Answer Unwritten Caller' }).click()
  await expect(ribbon(page, 'In hand', 'Unwritten Caller')).toContainText('talking')
  const health = await page.request.get('/api/ready')
  expect(health.status()).toBe(503)
  expect(await health.json()).toMatchObject({ status: 'degraded', database: { up: false }, exchange: { up: true } })
  const log = await page.request.get('/api/calls')
  expect(log.status()).toBe(503)
  expect((await log.json()).message).toContain('database')
  await own.cast.hangUp(call)
  await expect(page.getByText('No call in hand.')).toBeVisible()

  await own.outside(`alter database "${database}" allow_connections true`)
  await expect.poll(async () => (await records(own)).map(row => `${row.name} ${row.outcome}`)).toEqual(['Unwritten Caller answered'])
  const [{ count }] = await own.sql<{ count: number }>('select count(*)::int as count from journal') as [{ count: number }]
  expect(count).toBe(own.cast.state.seq)
  await expect.poll(async () => (await page.request.get('/api/ready')).status()).toBe(200)
  await expectMadeAgain(own)
})

test('the journal can only grow', async ({ own }) => {
  await own.cast.ring('Written Caller')
  await expect.poll(async () => (await own.sql('select 1 from journal')).length).toBeGreaterThan(0)
  await expect(own.sql('delete from journal')).rejects.toThrow('append-only')
  await expect(own.sql('update journal set type = \'x\'')).rejects.toThrow('append-only')
})

test('whoever types on while the exchange is slow means what stood there then: each key in its turn, for whom it was pressed', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const marit = own.cast.state.company.telephones[colleague]!.name
  const first = await own.cast.ring('First Caller')
  await page.getByRole('button', { name: 'Answer First Caller' }).click()
  await expect(ribbon(page, 'In hand', 'First Caller')).toContainText('talking')
  const second = await own.cast.ring('Second Caller')
  await expect(ribbon(page, 'Arriving', 'Second Caller')).toBeVisible()
  const third = await own.cast.ring('Third Caller')
  await expect(ribbon(page, 'Arriving', 'Third Caller')).toBeVisible()
  await page.keyboard.press('Delete')

  // End, answer the next (pressed twice), name somebody, a slip put right, pass on: all before the exchange says anything.
  own.stack.exchange!.kill('SIGSTOP')
  for (const key of ['Delete', 'Enter', 'Enter', ...marit, 'x', 'Backspace', 'Enter']) await page.keyboard.press(key === ' ' ? 'Space' : key)
  own.stack.exchange!.kill('SIGCONT')

  await expect(ribbon(page, 'Passed on', 'Second Caller')).toContainText(`rings at ${marit}`)
  await expect(ribbon(page, 'Arriving', 'Third Caller')).toBeVisible()
  const whereIs = (call: string) => own.cast.state.calls.get(call)?.connections.map(({ device }) => device)
  await expect.poll(() => whereIs(second)).toContain(colleague)
  expect([whereIs(first), whereIs(third)?.includes('t2100')]).toEqual([undefined, false])

  // Escape takes back what has not been done yet.
  own.stack.exchange!.kill('SIGSTOP')
  for (const key of ['Enter', ...marit, 'Enter', 'Escape']) await page.keyboard.press(key === ' ' ? 'Space' : key)
  own.stack.exchange!.kill('SIGCONT')
  await expect(ribbon(page, 'In hand', 'Third Caller')).toContainText('talking')
  await expect(page.getByRole('combobox', { name: 'Who is it for?' })).toHaveValue('')
  await expect(ribbon(page, 'In hand', 'Third Caller')).toBeVisible()
})
