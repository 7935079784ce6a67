import { request as apiRequests } from '@playwright/test'
import { createStack } from '../scripts/stack.mjs'
import { prepareDatabase } from '../scripts/database.mjs'
import { Begin } from '../server/database/migrations/20261124_begin'
import { TheWholeHand } from '../server/database/migrations/20261125_the_whole_hand'
import { Doors } from '../server/database/migrations/20261126_doors'
import * as entities from '../server/database/entities'
import { alone, expect, ribbon, signIn, withClient, type Stage } from './stage'

/** The company is data: it changes while calls go on, and everybody sees the same. */
const test = alone()

/** The version of the configuration that the exchange has. */
const version = (stage: Stage) => stage.cast.state.company.version

test('a person renamed, an extension renumbered, a line added: exchange and console follow in the middle of a call', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const call = await own.cast.ring('Steady Caller')
  await page.getByRole('button', { name: 'Answer Steady Caller' }).click()

  await own.sql('update person set first = \'Marigold\', last = \'Newname\' where id = \'p2150\'')
  await expect(page.getByRole('button', { name: /^Marigold Newname\. .*\b2150, / })).toBeVisible()
  await own.sql('update telephone set number = \'3150\' where id = \'t2150\'')
  await expect(page.getByRole('button', { name: /^Marigold Newname\. .*\b3150, / })).toBeVisible()
  await expect(ribbon(page, 'In hand', 'Steady Caller')).toContainText('talking')
  expect(own.cast.state.company.telephones.t2150).toMatchObject({ name: 'Marigold Newname', number: '3150' })

  await own.sql(`insert into line (id, name, number, promise, greeting, target, night, overflow_after, overflow_to)
    values ('news', 'News line', '+441632960070', 20000, 'Merrowby news, how can I help?', 'operators', 'mailbox:news', 240000, 'mailbox:news')`)
  await expect.poll(() => own.cast.state.company.lines.news).toBeDefined()
  await own.cast.ring('News Caller', { to: '+441632960070' })
  await expect(ribbon(page, 'Arriving', 'News Caller')).toContainText('News line')

  await own.sql('insert into holiday values (\'office\', \'2027-05-03\', \'Regatta\')')
  await own.sql('update line set hours = \'office\' where id = \'news\'')
  await expect.poll(() => own.cast.state.company.lines.news?.hours).toBe('office')
  expect(own.cast.state.company.hours.office).toMatchObject({ zone: 'Europe/London' })
  expect(own.cast.state.company.hours.office!.holidays).toContainEqual({ date: '2027-05-03', name: 'Regatta' })

  await expect(page.getByRole('banner')).toContainText('Ines Quillfeather · 2100')
  await own.sql('update telephone set number = \'3100\' where id = \'t2100\'')
  await expect(page.getByRole('banner')).toContainText('Ines Quillfeather · 3100')

  // The call in hand goes to the new number, with the keys that it always took.
  await page.keyboard.type('3150')
  await expect(page.getByRole('option').first()).toContainText('Marigold Newname')
  await page.keyboard.press('Enter')
  expect(await own.cast.ringingAt('t2150')).toBe(call)
  await own.cast.answer('t2150', call)
  await expect(ribbon(page, 'Passed on', 'Marigold Newname took it')).toBeVisible()
})

test('a member taken out of a group that rings is not rung next', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const call = await own.cast.ring('Group Caller')
  await page.getByRole('button', { name: 'Answer Group Caller' }).click()
  await page.keyboard.type('lost property')
  await expect(page.getByRole('option').first()).toContainText('Group · 3 of 3 free')
  await page.keyboard.press('Enter')
  const rings = () => own.cast.state.calls.get(call)!.connections.find(({ state }) => state === 'alerting')?.device
  const [first, second, third] = own.cast.state.company.groups['group:lostProperty']!.members as [string, string, string]
  await expect.poll(rings).toBe(first)
  await own.sql(`delete from call_group_member where "group" = 'group:lostProperty' and telephone = '${second}'`)
  await expect.poll(() => own.cast.state.company.groups['group:lostProperty']!.members).toEqual([first, third])
  await own.cast.leave(first, call)
  await expect.poll(rings).toBe(third)
})

test('what does not fit together is not taken over, and the next change that does is', async ({ own }) => {
  const before = version(own)
  await own.sql('update telephone set number = \'601\' where id = \'t2150\'')
  await own.sql('update person set first = \'Odd\' where id = \'p2151\'')
  await own.sql('update telephone set number = \'3151\' where id = \'t2150\'')
  await expect.poll(() => own.cast.state.company.telephones.t2151!.name).toMatch(/^Odd /)
  await expect.poll(() => own.cast.state.company.telephones.t2150!.number).toBe('3151')
  expect(version(own)).toBeGreaterThan(before)
})

test('two servers and one exchange see one order of changes', async ({ own, browser }) => {
  const second = createStack({
    databaseUrl: own.serverUrl,
    output: 'ignore',
    joins: { port: own.stack.exchangePort, token: own.stack.token },
    sessionSecret: own.stack.sessionSecret,
  })
  await second.startServer()
  try {
    const here = await own.open(browser, 'ines')
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const there = await context.newPage()
    await signIn(there, second.url, 'tomas')
    const told: number[] = []
    let seen = version(own)
    for (let i = 0; i < 20; i++) await own.sql(`update person set first = 'Name${i}' where id = 'p${2140 + i}'`)
    await own.sql('update telephone set number = \'3150\' where id = \'t2150\'')
    await expect.poll(() => {
      if (version(own) !== seen) told.push(seen = version(own))
      return own.cast.state.company.telephones.t2150!.number
    }).toBe('3150')
    expect([...told].sort((a, b) => a - b), 'versions only grow').toEqual(told)
    for (const page of [here, there]) {
      await expect(page.getByRole('button', { name: /^Name19 / })).toBeVisible()
      await expect(page.getByRole('button', { name: /^Name10 .*\b3150, / })).toBeVisible()
    }
    await context.close()
  }
  finally {
    await second.stop()
  }
})

test('the exchange started again knows nobody until it is told which company it serves, and then takes the next call', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await own.sql('update telephone set number = \'3150\' where id = \'t2150\'')
  await expect.poll(() => own.cast.state.company.telephones.t2150!.number).toBe('3150')
  const { epoch } = own.cast.state
  own.stack.server!.kill('SIGKILL')
  own.stack.exchange!.kill('SIGKILL')
  await own.stack.startExchange()
  await expect.poll(() => own.cast.state.epoch).not.toBe(epoch)
  expect(own.cast.state.company.version, 'nobody yet').toBe(0)
  expect((await own.cast.attempt({ service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' })).refusal).toBeDefined()
  await own.stack.startServer()
  await expect.poll(() => own.cast.state.company.telephones.t2150?.number).toBe('3150')
  await expect.poll(() => own.cast.state.agents.get('t2100')?.attended, { timeout: 30_000 }).toBe(true)
  await own.cast.ring('First Caller')
  await expect(ribbon(page, 'Arriving', 'First Caller')).toBeVisible()
})

test('a console that was away is not sent the configuration again', async ({ own, browser }) => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  const snapshots: { size: number, whole: boolean }[] = []
  page.on('websocket', socket => socket.on('framereceived', ({ payload }) => {
    const text = String(payload)
    if (text.startsWith('{"type":"snapshot"')) snapshots.push({ size: text.length, whole: 'company' in (JSON.parse(text) as object) })
  }))
  await signIn(page, own.url, 'ines')
  own.stack.exchange!.kill('SIGKILL')
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange does not answer' })).toBeVisible()
  await own.stack.startExchange()
  await expect(page.getByRole('alert').filter({ hasText: 'The telephone exchange' })).toBeHidden()
  await expect(page.getByRole('button', { name: /^Ines Quillfeather\. .*\b2100, / })).toBeVisible()
  expect(snapshots.map(({ whole }) => whole)).toEqual([true, false])
  expect(snapshots[1]!.size).toBeLessThan(snapshots[0]!.size)
  await context.close()
})

test('a database from before is brought up to date with its journal and its records', async ({ browser }) => {
  const admin = process.env.TEST_DATABASE!
  const name = `old_${Date.now()}`
  const url = admin.replace(/\/postgres$/, `/${name}`)
  const statements = [['20261124_begin', Begin], ['20261125_the_whole_hand', TheWholeHand], ['20261126_doors', Doors]].flatMap(([migration, Made]) => {
    const made = new (Made as typeof Begin)(undefined as never, undefined as never)
    made.up()
    return [...made.getQueries().map(String), `insert into mikro_orm_migrations (name) values ('${migration as string}')`]
  })
  const [{ hash }] = (await withClient(
    admin.replace(/\/postgres$/, `/${process.env.TEST_TEMPLATE}`),
    async client => (await client.query<{ hash: string }>('select password_hash as hash from account limit 1')).rows,
  )) as [{ hash: string }]
  await withClient(admin, client => client.query(`create database "${name}"`))
  await withClient(url, async (client) => {
    await client.query('create table mikro_orm_migrations (id serial primary key, name text, executed_at timestamptz default now())')
    for (const statement of [...statements, ...oldRows(hash)]) await client.query(statement)
  })
  // The command is given every day, on what was there the day before.
  await prepareDatabase(admin, name, { demo: false })
  const stack = createStack({ databaseUrl: await prepareDatabase(admin, name, { demo: false }), exchangeArgs: ['--pace', 'still'], output: 'ignore' })
  await stack.start()
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: stack.url })
    const page = await context.newPage()
    await signIn(page, stack.url, 'ines')
    await expect(page.getByRole('button', { name: /^Orla Pike\. Free.*\b2103, / })).toBeVisible()
    await page.getByRole('link', { name: 'Call log' }).click()
    await page.getByLabel('Filter by number, name or extension').fill('2103')
    await expect(page.getByRole('row').filter({ hasText: 'Earlier Caller' })).toContainText('Orla Pike')
    const kept = await withClient(url, async client => (await client.query<{ seq: number }>('select seq from journal where epoch = \'old\'')).rows)
    expect(kept, 'the journal stays').toHaveLength(1)
    const api = await apiRequests.newContext({ baseURL: stack.url, storageState: await context.storageState() })
    expect((await (await api.get('/api/calls')).json()).rows[0]).toMatchObject({
      answeredBy: 't2103',
      devices: ['t2100', 't2103'],
      names: { t2103: 'Orla Pike' },
      story: [{ device: 'east#2' }, { device: 't2100', to: 't2103' }],
    })
    expect((await (await api.get('/api/parkings')).json()).rows[0]).toMatchObject({ by: 't2100', for: 't2103' })
    expect((await (await api.get('/api/messages')).json()).received[0]).toMatchObject({ to: 't2100' })
    await context.close()
  }
  finally {
    await stack.stop()
  }
})

/** What an earlier version had written. */
function oldRows(hash: string): string[] {
  const people = [['2100', 'Ines', 'Quillfeather'], ['2101', 'Tomas', 'Arkwell'], ['2102', 'Bryony', 'Lusk'], ['2103', 'Orla', 'Pike']]
  return [
    'insert into department values (\'relay\', \'Front desk\', \'Quay\', \'["visitors"]\', 0)',
    ...people.map(([extension, first, last]) => `insert into person values ('${extension}', '${first}', '${last}', null, 'relay', 'Operator', 'M100', null)`),
    'insert into line values (\'general\', \'General line\', \'+441632960000\', 20, \'Good to hear you.\')',
    `insert into account values ('ines', 'Ines Quillfeather', 'operator', '${hash}', '2100', false)`,
    'insert into journal values (\'old\', 1, now(), \'held\', \'old-1\', \'{"type":"held","call":"old-1","device":"2100","seq":1,"at":0}\')',
    `insert into call_record values ('old-1', 'old', 4, 'inbound', '+447700900123', 'Earlier Caller', '+441632960000', 'general', now(), now(), now(),
      'answered', '2103', '2103',
      array['2100', '2103'], '{"2100":"Ines Quillfeather","2103":"Orla Pike"}',
        '[{"at":0,"type":"originated","device":"east#2"},{"at":1,"type":"transferred","device":"2100","to":"2103"}]',
        'earlier caller 2100 2103 orla pike', null)`,
    'insert into parking values (\'old-1\', now(), \'slot:1\', \'2100\', \'2103\', \'east#2\', null, \'Earlier Caller\', \'taken\', now(), \'2103\', '
    + '\'{"2100":"Ines Quillfeather"}\')',
    'insert into message values (\'m1\', \'text\', \'2100\', \'ines\', \'Ines\', null, null, \'Hello\', false, false, null, now(), null)',
    'insert into blocked_number values (\'+447700900555\', \'a nuisance\', \'2100\', now())',
  ]
}

test('entities and migrations agree: every column by its name, and whether it may be empty', async ({ own }) => {
  const columns = await own.sql<{ table: string, column: string, empty: string }>(
    'select table_name as table, column_name as column, is_nullable as empty from information_schema.columns where table_schema = \'public\'',
  )
  const underscore = (name: string) => name.replace(/(?<=.)[A-Z]/g, letter => `_${letter}`).toLowerCase()
  for (const schema of Object.values(entities)) {
    const { meta } = schema.init()
    const table = meta.tableName ?? underscore(meta.className)
    const described = Object.entries(meta.properties).map(([name, { nullable }]) => `${underscore(name)}${nullable ? ' may be empty' : ''}`)
    const there = columns.filter(row => row.table === table).map(({ column, empty }) => `${column}${empty === 'YES' ? ' may be empty' : ''}`)
    // What only the database itself needs.
    expect(there.filter(column => column !== 'position' || described.includes('position')).sort(), table).toEqual(described.sort())
  }
})
