import { execFileSync } from 'node:child_process'
import { startPostgres } from '../scripts/postgres.mjs'
import { demoPassword } from '../scripts/stack.mjs'
import { alone, buildStage, enter, expect, ribbon, type Stage } from './stage'

/** What happens is written down, whatever is in it and whatever becomes of the database. */
const test = alone()

const grinning = '\u{1F600}'
const family = '\u{1F468}\u200D\u{1F469}\u200D\u{1F467}'
const hostile = [
  'x'.repeat(79) + grinning, 'x'.repeat(78) + family, '\uD83D', 'a\uDE00b', 'nul\u0000l', '\u202Eright to left', '"quoted", {braces} and \\ and \'',
  `${'e\u0301'.repeat(60)}`, '\u{10FFFF}\uFFFF', ' \u00A0 ', `z${'\u0363'.repeat(500)}`,
]

async function settled(stage: Stage): Promise<void> {
  await expect
    .poll(async () => (await stage.sql<{ last: number }>('select coalesce(max(seq), 0)::int as last from journal'))[0]!.last)
    .toBe(stage.cast.state.seq)
}

test('no text from anywhere stops the journal: names, notes, accounts, reasons, what is said, messages', async ({ own, request }) => {
  own.cast.present(['t2100'])
  expect((await request.post(`${own.url}/api/session`, { data: { signIn: 'ines', password: demoPassword } })).status()).toBe(200)
  for (const text of hostile) {
    const call = await own.cast.ring(text, { from: text })
    await own.cast.ask({ service: 'answerCall', device: 't2100', call })
    // Some of them are refused, each for a reason of its own.
    const { calling } = own.cast.state.calls.get(call)!
    await own.cast.attempt({ service: 'sendUserInformation', device: calling, call, text: text.slice(0, 300) })
    await own.cast.attempt({ service: 'makeCall', device: 't2103', number: '020 7946 0123', account: text.slice(0, 60) })
    await own.cast.attempt({ service: 'blockNumber', device: 't2100', number: '07700 900111', reason: text.slice(0, 300) })
    await own.cast.attempt({ service: 'parkCall', device: 't2100', call, slot: null, for: 't2105' })
    await own.cast.attempt({ service: 'deflectCall', device: 't2100', call, to: 't2104', note: text.slice(0, 300) })
    const message = await request.post(`${own.url}/api/messages`, {
      data: { to: 't2105', caller: text.slice(0, 80), number: text.slice(0, 40), text: `${text.slice(0, 480)} !`, urgent: false, callBack: false },
    })
    expect([200, 422]).toContain(message.status())
    await own.cast.clearTheStage()
  }
  await settled(own)
  expect(await own.sql('select 1 from set_aside')).toEqual([])
  expect((await request.get(`${own.url}/api/ready`)).status()).toBe(200)
})

test('what the database refuses is set aside with its reason, an administrator sees it, and the rest goes on', async ({ own, browser }) => {
  own.cast.present(['t2100'])
  await own.sql('alter table journal add constraint no_holding check (type <> \'held\')')
  const first = await own.cast.ring('First Caller')
  await own.cast.ask({ service: 'answerCall', device: 't2100', call: first })
  await own.cast.ask({ service: 'holdCall', device: 't2100', call: first })
  await own.cast.ask({ service: 'retrieveCall', device: 't2100', call: first })
  await own.cast.hangUp(first)
  await settled(own)
  expect(await own.sql('select name, outcome from call_record')).toEqual([{ name: 'First Caller', outcome: 'answered' }])
  const page = await (await browser.newContext({ baseURL: own.url })).newPage()
  await enter(page, own.url, 'admin')
  await page.getByRole('link', { name: 'Upkeep' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'SQLSTATE 23514' })).toContainText('held')
  await page.context().close()
})

test('PostgreSQL away: a message in a mailbox, a block and its lifting, and calls of an exchange that began anew are not lost', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await own.cast.ask({ service: 'blockNumber', device: 't2100', number: '07700 900333', reason: 'before' })
  const lost = await own.cast.ring('Lost Caller')
  await settled(own)
  const database = (await own.sql<{ name: string }>('select current_database() as name'))[0]!.name
  await own.outside(`alter database "${database}" allow_connections false`)
  await own.outside(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${database}'`)

  await own.cast.ask({ service: 'blockNumber', device: 't2100', number: '07700 900444', reason: 'meanwhile' })
  await own.cast.ask({ service: 'unblockNumber', device: 't2100', number: '07700 900333' })
  const voice = await own.cast.ring('Voice Caller')
  await own.cast.ask({ service: 'deflectCall', device: 't2100', call: voice, to: 'mailbox:general' })
  await own.cast.say(voice, 'Please call me back.')
  // A message is one only after two seconds.
  await expect
    .poll(() => Date.now() - (own.cast.state.calls.get(voice)?.connections.find(({ device }) => device === 'mailbox:general')?.since ?? Infinity))
    .toBeGreaterThan(2_200)
  await own.cast.hangUp(voice)
  own.stack.exchange!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange does not answer' })).toBeVisible()
  await own.stack.startExchange()
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange' })).toBeHidden()

  await own.outside(`alter database "${database}" allow_connections true`)
  await expect.poll(async () => (await own.sql<{ number: string }>('select number from blocked_number')).map(({ number }) => number)).toEqual(['+447700900444'])
  await expect.poll(async () => own.sql('select "to", text from message')).toEqual([{ to: 'general', text: 'Please call me back.' }])
  await expect.poll(async () => own.sql(`select outcome from call_record where id = '${lost}'`)).toEqual([{ outcome: 'lost' }])
  // The new exchange hears of the block as soon as the database can say it.
  await page.getByRole('link', { name: 'Call log' }).click()
  await page.getByRole('link', { name: 'Blocked numbers' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Blocked numbers' })).toBeVisible()
  await expect(page.getByRole('row').filter({ hasText: '07700 900444' })).toBeVisible()
})

test('PostgreSQL frozen: the log, the health and signing in say so within three seconds, and calls go on', async ({ browser }) => {
  const postgres = await startPostgres('frozen-postgres', { fresh: true })
  const { stage, strike } = await buildStage({ admin: postgres.superuserUrl })
  const processes = () => execFileSync('ps', ['-o', 'pid=', '--ppid', String(postgres.pid)], { encoding: 'utf8' }).trim().split(/\s+/).map(Number)
  const signal = (name: NodeJS.Signals) => {
    for (const pid of [postgres.pid!, ...processes()]) {
      try {
        process.kill(pid, name)
      }
      catch (error) {
        // A helper of PostgreSQL may end of its own between being listed and being reached.
        if ((error as NodeJS.ErrnoException).code !== 'ESRCH' || pid === postgres.pid) throw error
      }
    }
  }
  try {
    const page = await stage.open(browser, 'ines')
    const kept = () => stage.sql<{ many: number }>(`select (select count(*) from message where kind = 'text') + (select count(*) from contact where not removed)
      + (select count(*) from shift_note) + (select count(*) from key_page) + (select count(*) from contact_import) as many`).then(([row]) => Number(row!.many))
    const before = await kept()
    signal('SIGSTOP')
    const call = await stage.cast.ring('Unwritten Caller')
    await page.getByRole('button', { name: 'Answer Unwritten Caller' }).click()
    await expect(ribbon(page, 'In hand', 'Unwritten Caller')).toContainText('talking')
    for (const ask of [
      () => page.request.get('/api/calls'), () => page.request.get('/api/ready'), () => page.request.get('/api/parkings'),
      () => page.request.post('/api/session', { data: { signIn: 'tomas', password: demoPassword } }),
    ]) {
      const began = performance.now()
      const answer = await ask()
      expect(answer.status()).toBe(503)
      expect(performance.now() - began).toBeLessThan(3_000)
    }
    // What was to be kept is refused, and whoever tries again afterwards does not do it twice.
    const contact = {
      kind: 'person', name: 'Once Only', company: null, numbers: [], addresses: [], category: '', language: '', note: '', private: false, readFirst: false,
      mark: 'none',
    }
    const writes = [
      () => page.request.post('/api/messages', { data: { to: 't2150', caller: 'Once Only', number: null, text: 'Call me.', urgent: false, callBack: false } }),
      () => page.request.post('/api/contacts', { data: contact }),
      () => page.request.post('/api/shift/notes', { data: { text: 'Once only.' } }),
      () => page.request.post('/api/key-pages', { data: { name: 'Once only', shared: false, keys: [] } }),
      () => page.request.post('/api/contacts/imports', { data: { file: 'once.vcf', private: false } }),
    ]
    const refused = await Promise.all(writes.map(write => write()))
    expect(refused.map(answer => answer.status())).toEqual([503, 503, 503, 503, 503])
    expect((await refused[0]!.json() as { message: string }).message).toContain('nothing was changed')
    await stage.cast.hangUp(call)
    await expect(page.getByText('No call in hand.')).toBeVisible()
    // The connection of the page holds: the log says what is wrong, and comes by itself when the database is back.
    await page.getByRole('link', { name: 'Call log' }).click()
    await expect(page.getByRole('main').getByRole('alert')).toBeVisible()
    signal('SIGCONT')
    await expect(page.getByRole('row').filter({ hasText: 'Unwritten Caller' })).toBeVisible({ timeout: 40_000 })
    await expect
      .poll(async () => stage.sql('select name, outcome from call_record'), { timeout: 40_000 })
      .toEqual([{ name: 'Unwritten Caller', outcome: 'answered' }])
    for (const write of writes) expect((await write()).ok()).toBe(true)
    expect(await kept()).toBe(before + writes.length)
  }
  finally {
    signal('SIGCONT')
    await strike()
    await postgres.stop()
  }
})

test('an exchange that is stopped is noticed; what was asked of it meanwhile is found out, and never done late', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await own.cast.ring('Still Caller')
  await expect(ribbon(page, 'Arriving', 'Still Caller')).toBeVisible()
  own.stack.exchange!.kill('SIGSTOP')
  await page.getByRole('button', { name: 'Answer Still Caller' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange does not answer' })).toBeVisible({ timeout: 20_000 })
  own.stack.exchange!.kill('SIGCONT')
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange' })).toBeHidden({ timeout: 20_000 })
  await expect(page.getByText('That was not done')).toBeVisible({ timeout: 20_000 })
  await expect(ribbon(page, 'Arriving', 'Still Caller')).toBeVisible()
  await page.getByRole('button', { name: 'Answer Still Caller' }).click()
  await expect(ribbon(page, 'In hand', 'Still Caller')).toContainText('talking')
})
