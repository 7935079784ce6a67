import { alone, expect } from './stage'

const test = alone()

test('calls outside are counted by account code, corrected with a record, given out and printed; who may not sees none of it', async ({ own, browser }) => {
  const { cast } = own
  const call = async (device: string, account: string | undefined, seconds: number) => {
    const before = new Set(cast.state.calls.keys())
    await cast.ask({ service: 'makeCall', device, number: '020 7946 0123', ...account !== undefined && { account } })
    await expect.poll(() => [...cast.state.calls.keys()].find(id => !before.has(id))).toBeDefined()
    const id = [...cast.state.calls.keys()].find(one => !before.has(one))!
    const outside = () => cast.state.calls.get(id)?.connections.find(one => one.party && one.state === 'alerting')?.device
    await expect.poll(outside).toBeDefined()
    await cast.answer(outside()!, id)
    await cast.leave(device, id)
    await expect.poll(async () => (await own.sql(`select 1 from call_record where id = '${id}' and ended_at is not null`)).length).toBe(1)
    await own.sql(`update call_record set ended_at = answered_at + interval '${seconds} seconds' where id = '${id}'`)
    return id
  }
  const first = await call('t2130', 'k-114', 65)
  await call('t2131', 'K-114', 30)
  await call('t2132', undefined, 10)
  await call('t2133', '=1+1', 5)

  const supervisor = await own.open(browser, 'bryony')
  await supervisor.goto('/charges')
  const sums = supervisor.getByRole('complementary', { name: 'Sums by account code' })
  await expect(sums.getByRole('row', { name: 'K-114 Groups and charters 2 1:35' })).toBeVisible()
  await expect(sums.getByRole('row', { name: 'no code 1 0:10' })).toBeVisible()
  await expect(sums.getByRole('row', { name: 'All 4 1:50' })).toBeVisible()

  // The code of the one without is put right; another who saw it before is refused.
  const row = supervisor.getByRole('row').filter({ hasText: cast.state.company.telephones.t2132!.name })
  await row.getByRole('combobox').click()
  await supervisor.getByRole('option', { name: 'K-200' }).click()
  await expect(row).toContainText(/Bryony Lusk, .*, was no code/)
  await expect(sums.getByRole('row', { name: /^K-200 Ship stores 1/ })).toBeVisible()
  const late = await supervisor.request.put(`/api/charges/${first}`, { data: { code: 'K-900', seen: '' } })
  expect([late.status(), (await late.json() as { message: string }).message]).toEqual([409, expect.stringContaining('K-114')])
  expect((await supervisor.request.put('/api/charges/nothing', { data: { code: '', seen: '' } })).status()).toBe(404)

  await supervisor.getByRole('combobox', { name: 'Account code' }).press('Enter')
  await supervisor.getByRole('option', { name: 'K-114 Groups and charters' }).click()
  await expect(supervisor.getByRole('combobox', { name: /^What the call to/ })).toHaveCount(2)
  const [from, to] = ['2020-01-01', '2024-12-31']
  expect(await (await supervisor.request.get(`/api/charges?from=${from}&to=${to}`)).json()).toEqual({ sums: [], calls: [], more: 0 })
  for (const [query, field] of [['from=2026-02-30&to=2026-03-01', 'from'], ['from=2026-03-02&to=2026-03-01', 'to'], ['from=2001-01-01&to=2026-03-01', 'to']]) {
    const wrong = await supervisor.request.get(`/api/charges?${query}`)
    expect([wrong.status(), (await wrong.json() as { data: { field: string } }).data.field]).toEqual([422, field])
  }
  const file = await supervisor.getByRole('link', { name: 'Give out as CSV' }).getAttribute('href')
  const text = await (await supervisor.request.get(file!.replace('&code=K-114', ''))).text()
  expect(text.split('\r\n')[0]).toBe('code,for,begun,by,number,name,seconds,corrected by,code before')
  expect(text).toContain('\'=1+1')
  expect(text).toContain('K-200,Ship stores,')

  await supervisor.emulateMedia({ media: 'print' })
  await expect(supervisor.getByRole('link', { name: 'Console', exact: true })).toBeHidden()
  await expect(supervisor.getByText('calls outside that were answered')).toBeVisible()
  await expect(sums.getByRole('row', { name: /^All/ })).toBeVisible()

  const operator = await own.open(browser, 'ines')
  await expect(operator.getByRole('link', { name: 'Contacts' })).toBeVisible()
  await expect(operator.getByRole('link', { name: 'Charges' })).toHaveCount(0)
  for (const path of [`/api/charges?from=${from}&to=${to}`, `/api/charges/export?from=${from}&to=${to}`])
    expect((await operator.request.get(path)).status()).toBe(403)
})
