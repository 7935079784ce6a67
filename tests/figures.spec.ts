import { alone, expect } from './stage'

/** Figures of real calls, on the page, as a file, against who may see them; a server and an exchange that are killed in mid-call. */
const test = alone({ exchangeArgs: ['--clock', '2031-05-12T08:00:00Z'] })

const second = 1_000

test('calls are counted as they were: in time and late, given up, passed on and back; as charts, words, tables and files', async ({ own, browser }) => {
  const { cast } = own
  cast.present(['t2100', 't2101'])
  const answered = async (wait: number, talk: number) => {
    const call = await cast.ring('Ada Quill', { from: '+447700900111', to: '+441632960000' })
    cast.advance(wait)
    await cast.answer('t2100', call)
    cast.advance(talk)
    return call
  }
  for (const [wait, talk] of [[4 * second, 30 * second], [9 * second, 60 * second], [70 * second, 20 * second]] as const) {
    const call = await answered(wait, talk)
    await cast.leave('t2100', call)
  }
  const gaveUp = await cast.ring('Bo Tern', { from: '+447700900112', to: '+441632960000' })
  cast.advance(40 * second)
  await cast.hangUp(gaveUp)
  const passed = await answered(2 * second, 8 * second)
  await cast.ask({ service: 'singleStepTransferCall', device: 't2100', call: passed, to: 'queue:freight' })
  cast.advance(3 * second)

  const supervisor = await own.open(browser, 'bryony')
  await supervisor.getByRole('link', { name: 'Reports', exact: true }).click()
  const report = async (query: string) => await (await supervisor.request.get(`/api/figures?from=2031-05-12&to=2031-05-12${query}`)).json()
  await expect.poll(async () => (await report('')).total).toMatchObject({
    offered: 5, answered: 4, within: 3, abandoned: 1, longest: 70 * second, waited: 85 * second, abandonedAfter: 40 * second, talked: 110 * second,
  })
  const ofFreight = await report('&queue=queue:freight')
  expect(ofFreight.total).toMatchObject({ offered: 1, answered: 0, waiting: 1 })
  expect((await report('&line=general&queue=operators')).total.offered).toBe(5)
  expect((await report('&line=nothing')).total.offered).toBe(0)
  expect((await report('')).again).toMatchObject({ calls: 3, answered: 3 })

  const today = await (await supervisor.request.get('/api/figures/today')).json()
  expect(today.places.general).toMatchObject({ offered: 5, answered: 4, within: 3, abandoned: 1, level: 3 / 5 })
  await expect(supervisor.getByRole('heading', { name: 'Look back', level: 1 })).toBeVisible()
  await expect(supervisor.getByText('5 calls, most from 9:00 to 9:30 (5). 1 gave up, most of them from 9:00 (1).')).toBeVisible()
  await expect(supervisor.getByText('Only 5 calls: too few to say much.')).toBeVisible()
  await supervisor.getByText('Table of lines and queues').click()
  await expect(supervisor.getByRole('row', { name: /^General line 5 4 3 1 0 60 %/ })).toBeVisible()
  const file = await (await supervisor.request.get('/api/figures/export?table=lines&from=2031-05-12&to=2031-05-12')).text()
  expect(file.split('\r\n')[0]).toMatch(/^line,offered,answered,within the promise,given up/)
  expect(file).toContain('General line,5,4,3,1,0,')

  // The exchange dies while a caller waits and another talks: what is known of them stays in the figures.
  const talking = await answered(second, 5 * second)
  expect(talking).toBeTruthy()
  const { epoch } = cast.state
  await expect.poll(async () => (await report('')).total.answered).toBe(5)
  own.stack.exchange!.kill('SIGKILL')
  await own.stack.startExchange()
  await expect.poll(() => cast.state.epoch).not.toBe(epoch)
  await expect.poll(async () => (await report('&queue=queue:freight')).total).toMatchObject({ offered: 1, lost: 1, waiting: 0 })
  expect((await report('')).total).toMatchObject({ offered: 6, answered: 5 })
  expect(await own.sql(`select 1 from leg where "end" = 'waiting' or ("end" = 'answered' and talked is null)`)).toEqual([])

  for (const [query, field] of [['from=2031-02-30&to=2031-03-01', 'from'], ['from=2031-03-02&to=2031-03-01', 'to'], ['from=2001-01-01&to=2031-03-01', 'to']]) {
    const wrong = await supervisor.request.get(`/api/figures?${query}`)
    expect([wrong.status(), (await wrong.json() as { data: { field: string } }).data.field]).toEqual([422, field])
  }
  const operator = await own.open(browser, 'ines')
  await expect(operator.getByRole('link', { name: 'Reports', exact: true })).toHaveCount(0)
  for (const path of ['', '/ahead?queue=operators', '/export?table=days&from=2031-05-12&to=2031-05-12'])
    expect((await operator.request.get(`/api/figures${path || '?from=2031-05-12&to=2031-05-12'}`)).status()).toBe(403)
  expect((await operator.request.get('/api/figures/today')).status()).toBe(200)
  const staff = await own.open(browser, 'staff')
  expect((await staff.request.get('/api/figures/today')).status()).toBe(403)
})

test('a day that is over is kept, and counted again when something in it changes; five years are asked and left again', async ({ own, browser }) => {
  await own.sql(`insert into leg (call, seq, kind, place, epoch, at, began, direction, line, back, "end", "by", waited, talked)
    select 'old-' || n, 1, 'line', 'general', 'old', timestamptz '2026-06-01 09:00+00' + n * interval '7 hours', 0, 'inbound', 'general', false, 'answered',
      't2100', 1000 * (n % 50), 60000 from generate_series(1, 5000) n`)
  const supervisor = await own.open(browser, 'bryony')
  const total = async () => (await (await supervisor.request.get('/api/figures?from=2026-06-03&to=2026-06-03')).json()).total.offered
  expect(await total()).toBe(3)
  expect(await own.sql(`select 1 from day_figures where day = '2026-06-03' and subject = '[null,null]'`)).toHaveLength(1)
  await own.sql(`update leg set at = timestamptz '2026-06-03 12:00+00' where call = 'old-4000'`)
  expect(await total()).toBe(4)
  await own.sql(`delete from leg where call = 'old-4000'`)
  expect(await total()).toBe(3)

  // Whoever asks for years and goes leaves no work behind: the server answers others, and goes on no further.
  const cancelled = await supervisor.evaluate(async () => {
    const gone = new AbortController()
    const asked = fetch('/api/figures?from=2026-06-01&to=2031-05-30', { signal: gone.signal }).then(() => 'answered', (error: Error) => error.name)
    requestAnimationFrame(() => gone.abort())
    return await asked
  })
  expect(cancelled).toBe('AbortError')
  const whole = await supervisor.request.get('/api/figures?from=2026-06-01&to=2031-05-30')
  const report = await whole.json() as { step: string, total: { offered: number }, bySteps: unknown[] }
  expect([report.step, report.total.offered, report.bySteps.length]).toEqual(['month', 4999, 60])
})

test('the hours to come: how many are needed, what if there were two more, and how little is known at first', async ({ own, browser }) => {
  const supervisor = await own.open(browser, 'bryony')
  await supervisor.goto('/figures/ahead')
  await expect(supervisor.getByText('Nothing is known of earlier days: there is no forecast.')).toBeVisible()
  // Six weeks in which the operators were called twelve times in every half-hour from eight to five, also on this day.
  await own.sql(`insert into leg (call, seq, kind, place, epoch, at, began, direction, line, back, "end", "by", waited, talked)
    select 'made-' || d || '-' || n, 1, 'group', 'operators', 'made', timestamptz '2031-05-12 00:00+00' - d * interval '1 day'
      + interval '7 hours' + n * interval '150 seconds', 0, 'inbound', 'general', false, 'answered', 't2100', 5000, 240000
    from generate_series(0, 42) d, generate_series(0, 215) n where d > 0 or n < 24`)
  await supervisor.reload()
  await expect(supervisor.getByText('Made of 6 days of the same weekday.')).toBeVisible()
  const table = supervisor.getByRole('table')
  await expect(table.getByRole('row').nth(2)).toContainText('12.')
  const slider = supervisor.getByRole('slider', { name: 'People there' })
  await slider.focus()
  await slider.press('Home')
  const needed = Number(await table.getByRole('row').nth(3).getByRole('cell').nth(2).textContent())
  expect(needed).toBeGreaterThan(1)
  const whatIf = supervisor.getByRole('region', { name: 'What if' })
  const within = () => whatIf.getByText(/^within /).locator('..').getByRole('definition').textContent()
  const none = await within()
  for (let n = 0; n < needed; n++) await slider.press('ArrowRight')
  await expect.poll(async () => Number.parseInt((await within())!)).toBeGreaterThanOrEqual(80)
  expect(none).toBe('0 %')
  expect((await supervisor.request.get('/api/figures/ahead?queue=nothing')).status()).toBe(404)
  expect((await supervisor.request.get('/api/figures/ahead')).status()).toBe(422)
})
