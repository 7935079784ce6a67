import { execFile } from 'node:child_process'
import { request as httpRequest } from 'node:http'
import { connect } from 'node:net'
import { promisify } from 'node:util'
import { expect as expectThat, request as apiRequests, type APIRequestContext } from '@playwright/test'
import fc from 'fast-check'
import { WebSocket } from 'ws'
import { wellFormed } from '../core/calls/text'
import { feedVersion } from '../shared/beat'
import { linkVersion } from '../shared/link'
import { demoPassword } from '../scripts/stack.mjs'
import { alone, buildStage, enter, expect, signIn, type Stage } from './stage'

/** Who may come in, how long they stay, and who is let go. Every test has a stage to itself: limits and sessions are remembered. */
const test = alone()

async function come(stage: Stage, who: string): Promise<APIRequestContext> {
  const context = await apiRequests.newContext({ baseURL: stage.url })
  expect((await context.post('/api/session', { data: { signIn: who, password: demoPassword } })).status()).toBe(200)
  return context
}

const guess = (context: APIRequestContext, signIn: string, password = 'a wrong password') => context.post('/api/session', { data: { signIn, password } })

/** How an upgrade is answered: its status, and 101 when the feed opens. */
function upgrade(stage: Stage, path: string, headers: Record<string, string>): Promise<number> {
  const { port } = new URL(stage.url)
  return new Promise((resolve, reject) => {
    const asking = httpRequest({
      port,
      host: '127.0.0.1',
      path,
      headers: { 'connection': 'Upgrade', 'upgrade': 'websocket', 'sec-websocket-version': '13', 'sec-websocket-key': 'dGhlIHNhbXBsZSBub25jZQ==', ...headers },
    })
    asking.once('response', (answer) => {
      answer.resume()
      resolve(answer.statusCode!)
    })
    asking.once('upgrade', (_, socket) => {
      socket.destroy()
      resolve(101)
    })
    asking.once('error', reject)
    asking.end()
  })
}

async function cookieOf(context: APIRequestContext): Promise<string> {
  const { cookies } = await context.storageState()
  return cookies.map(({ name, value }) => `${name}=${value}`).join('; ')
}

test('guesses are counted before they are compared, by the folded name, and do not lock out a browser that is known', async ({ own }) => {
  const owner = await come(own, 'staff')
  await owner.delete('/api/session')
  const stranger = await apiRequests.newContext({ baseURL: own.url })
  const spellings = ['staff', 'STAFF', 'Staff', 'sTaFf', 'staff\u0000', 'ＳＴＡＦＦ']
  const answers = await Promise.all(Array.from({ length: 24 }, (_, index) => guess(stranger, spellings[index % spellings.length]!)))
  const statuses = answers.map(answer => answer.status())
  expect(statuses.filter(status => status === 401).length, 'a few are compared, however many come at once').toBeLessThanOrEqual(5)
  const refused = answers.find(answer => answer.status() === 429)!
  expect(Number(refused.headers()['retry-after'])).toBeGreaterThan(0)
  expect((await refused.json()).message).toMatch(/Wait \d+ second/)
  // However long the comparing took: the wait that it led to begins at this moment.
  const again = 'update sign_in_limit set until = now() + interval \'20 seconds\' where key = \'name:staff\' and until is not null returning 1'
  expect(await own.sql(again)).toHaveLength(1)
  expect((await guess(stranger, 'staff', demoPassword)).status(), 'the right password of a stranger has to wait too').toBe(429)
  expect((await guess(owner, 'staff', demoPassword)).status(), 'its owner, at a browser of theirs, comes in').toBe(200)
  expect((await guess(stranger, 'ines', demoPassword)).status(), 'nobody else is locked out').toBe(200)
})

test('signing in does not make calls wait', async ({ own }) => {
  const ines = await come(own, 'ines')
  const many = Array.from({ length: 30 }, (_, index) =>
    fetch(`${own.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ signIn: `nobody${index}`, password: 'x' }),
    }),
  )
  const started = performance.now()
  const answer = await ines.post('/api/requests', { data: { id: crypto.randomUUID(), service: 'makeCall', device: 't2100', number: 't2150' } })
  expect(answer.status()).toBe(200)
  const answered = performance.now() - started
  const all = await Promise.all(many)
  const hashing = performance.now() - started
  expect(answered, 'the call was answered long before all were compared').toBeLessThan(hashing / 3)
  expect(all.every(each => [401, 429, 503].includes(each.status))).toBe(true)
})

test('signing out ends the session wherever its cookie is; a new password ends all others', async ({ own, browser }) => {
  const first = await come(own, 'tomas')
  const stolen = await cookieOf(first)
  expect((await first.delete('/api/session')).status()).toBe(200)
  const thief = await apiRequests.newContext({ baseURL: own.url, extraHTTPHeaders: { cookie: stolen } })
  expect((await thief.get('/api/calls')).status()).toBe(401)
  expect(await upgrade(own, '/api/feed', { cookie: stolen })).toBe(401)

  const page = await own.open(browser, 'tomas')
  const other = await come(own, 'tomas')
  await page.getByRole('link', { name: 'Tomas Arkwell' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'this one' })).toBeVisible()
  await page.getByLabel('Present password').fill(demoPassword)
  await page.getByLabel('New password').fill('short')
  await page.getByRole('button', { name: 'Change it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'at least 12 characters' })).toBeVisible()
  await page.getByLabel('New password').fill('ferry and lamp and rope')
  await page.getByRole('button', { name: 'Change it' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Your password is changed' })).toBeVisible()
  expect((await other.get('/api/calls')).status()).toBe(401)
  expect((await page.request.get('/api/calls')).status()).toBe(200)
  expect((await guess(await apiRequests.newContext({ baseURL: own.url }), 'tomas', demoPassword)).status()).toBe(401)
})

test('an account that is shut, a role that changes and a session that is ended take effect at once, in open consoles too', async ({ own, browser }) => {
  const admin = await (await browser.newContext({ baseURL: own.url, viewport: { width: 1280, height: 800 } })).newPage()
  await enter(admin, own.url, 'admin')
  const tomas = await own.open(browser, 'tomas')
  const staff = await own.open(browser, 'staff')
  await own.cast.ring('Secret Caller')
  await admin.getByRole('link', { name: 'Accounts' }).click()
  await admin.getByRole('button', { name: 'Shut the account of Tomas Arkwell' }).click()
  await expect(tomas).toHaveURL(/sign-in/)
  expect((await tomas.request.get('/api/calls')).status()).toBe(401)
  expect((await guess(await apiRequests.newContext({ baseURL: own.url }), 'tomas', demoPassword)).status()).toBe(401)

  expect((await staff.request.get('/api/parkings')).status()).toBe(403)
  expect((await admin.request.patch('/api/accounts/staff', { data: { role: 'supervisor' } })).status()).toBe(200)
  expect((await staff.request.get('/api/parkings')).status()).toBe(200)
  await staff.getByRole('link', { name: 'Call log' }).click()
  await expect(staff.getByRole('link', { name: 'Parkings' })).toBeVisible()

  const last = await admin.request.patch('/api/accounts/admin', { data: { role: 'staff' } })
  expect(last.status()).toBe(409)
  expect((await last.json()).message).toContain('last administrator')
  for (const who of ['ines', 'staff']) {
    const person = await come(own, who)
    expect((await person.get('/api/accounts')).status()).toBe(403)
    expect((await person.get('/api/upkeep')).status()).toBe(403)
    expect((await person.patch('/api/accounts/admin', { data: { disabled: true } })).status()).toBe(403)
    expect((await person.post('/api/accounts/admin/password', { data: {} })).status()).toBe(403)
  }
  await admin.getByRole('button', { name: /^New password for Ines/ }).click()
  const password = await admin.locator('code').textContent()
  const ines = await apiRequests.newContext({ baseURL: own.url })
  expect((await guess(ines, 'ines', password!)).status()).toBe(200)
  await admin.context().close()
})

test('the feed opens at its own path, for this console, with a session, and takes short messages', async ({ own }) => {
  const cookie = await cookieOf(await come(own, 'ines'))
  const origin = own.url
  expect(await upgrade(own, '/api/feed', { cookie, origin })).toBe(101)
  expect(await upgrade(own, '/api/feed', { origin })).toBe(401)
  for (const hostile of ['null', 'nonsense', 'http://elsewhere.example', `${origin}.elsewhere.example`]) {
    for (let i = 0; i < 20; i++) expect(await upgrade(own, '/api/feed', { cookie, origin: hostile })).toBe(403)
  }
  for (const host of ['a b c', '[::1']) expect(await upgrade(own, '/api/feed', { cookie, host }), host).toBe(400)
  for (const path of ['/', '/api/calls', '/api/feed/', '/nowhere', '//api/feed']) expect(await upgrade(own, path, { cookie, origin }), path).toBe(404)
  const closed = await new Promise<number>((resolve) => {
    const socket = new WebSocket(`${own.url.replace('http', 'ws')}/api/feed`, { headers: { cookie, origin } })
    socket.once('open', () => socket.send('x'.repeat(5_000)))
    socket.once('close', resolve)
    socket.once('error', () => {})
  })
  expect(closed).toBe(1009)
  expect((await fetch(`${own.url}/api/ready`)).status).toBe(200)
})

test('a body without a length is cut at the limit, before anybody has signed in', async ({ own }) => {
  const { port } = new URL(own.url)
  const outcome = await new Promise<{ status: number, sent: number }>((resolve) => {
    let sent = 0
    let status = 0
    const asking = httpRequest({
      port,
      host: '127.0.0.1',
      method: 'POST',
      path: '/api/session',
      headers: { 'content-type': 'application/json', 'transfer-encoding': 'chunked' },
    })
    asking.once('response', (answer) => {
      status = answer.statusCode!
      answer.resume()
    })
    asking.once('error', () => {})
    asking.once('close', () => resolve({ status, sent }))
    const chunk = Buffer.alloc(64 * 1024, 32)
    const more = (): void => {
      while (sent < 200 * 1024 * 1024 && !asking.destroyed) {
        sent += chunk.length
        if (!asking.write(chunk)) {
          asking.once('drain', more)
          return
        }
      }
    }
    more()
  })
  expect(outcome.status).toBe(413)
  expect(outcome.sent, 'bytes that were taken').toBeLessThan(20 * 1024 * 1024)
})

test('personal data is kept by nobody on the way, and is for this console alone', async ({ own }) => {
  const ines = await come(own, 'ines')
  for (const path of ['/api/session', '/api/calls', '/api/messages', '/api/parkings', '/api/sessions']) {
    const headers = (await ines.get(path)).headers()
    expect(headers['cache-control'], path).toBe('no-store')
    expect(headers['access-control-allow-origin'], path).toBeUndefined()
  }
})

test('a stranger on the exchange link has one line and two seconds', async ({ own }) => {
  const talk = (say: (write: (text: string) => boolean) => void): Promise<string> => new Promise((resolve) => {
    const socket = connect(own.stack.exchangePort, '127.0.0.1')
    let heard = ''
    socket.on('data', (chunk) => { heard += chunk.toString() })
    socket.once('close', () => resolve(heard))
    socket.on('error', () => {})
    say(text => !socket.destroyed && socket.write(text))
  })
  expect(await talk(() => {})).toContain('say hello first')
  expect(await talk(write => write('{"type":"ping","present":[]}\n'))).toContain('say hello first')
  expect(await talk(write => write(`{"type":"hello","version":${linkVersion},"token":"wrong"}\n{"type":"ping","present":[]}\n`))).toMatch(/token/)
  const flood = await talk((write) => {
    const lines = '{}\n'.repeat(20_000)
    const more = setInterval(() => {
      if (!write(lines)) clearInterval(more)
    }, 1)
  })
  expect(flood.split('\n').filter(Boolean).length, 'one answer').toBeLessThanOrEqual(1)
  // The exchange goes on at once.
  await own.cast.ask({ service: 'tick' })
})

test('an empty database outside the demo has no account until somebody makes one', async () => {
  const { stage, strike } = await buildStage({ demo: false })
  try {
    expect(await stage.sql('select 1 from account')).toEqual([])
    const stranger = await apiRequests.newContext({ baseURL: stage.url })
    for (const who of ['admin', 'ines']) expect((await guess(stranger, who, demoPassword)).status()).toBe(401)
    // Whoever waits for it must hear meanwhile that an idle connection has been closed.
    const { stdout } = await promisify(execFile)(process.execPath, ['.output/commands/administrator.mjs', 'Keeper'], {
      env: { ...process.env, NUXT_DATABASE_URL: stage.serverUrl },
    })
    const password = /shown this once: (\S+)/.exec(stdout)![1]!
    expect((await guess(stranger, 'keeper', password)).status()).toBe(200)
    expect((await (await stranger.get('/api/session')).json()).role).toBe('administrator')
  }
  finally {
    await strike()
  }
})

test('the server\'s role can do what a server does, and no more', async ({ own }) => {
  const { Client } = await import('pg')
  const client = new Client({ connectionString: own.serverUrl })
  await client.connect()
  const refused = (statement: string) => expectThat(client.query(statement)).rejects.toThrow(/permission denied|must be/)
  for (const statement of [
    'delete from journal',
    'update journal set type = \'x\'',
    'truncate journal',
    'alter table journal disable trigger all',
    'drop table journal',
    'drop trigger journal_append_only on journal',
    'create table evil ()',
    'update mikro_orm_migrations set name = \'x\'',
    'create role evil',
    'delete from set_aside',
    'copy account to program \'true\'',
  ])
    await refused(statement)
  const [role] = (await client.query('select rolsuper, rolcreaterole, rolcreatedb from pg_roles where rolname = current_user')).rows as object[]
  expect(role).toEqual({ rolsuper: false, rolcreaterole: false, rolcreatedb: false })
  await client.end()
})

test('a session that has lasted longer than a long day is over', async ({ own }) => {
  const ines = await come(own, 'ines')
  await own.sql('update session set created_at = now() - interval \'17 hours\'')
  await own.sql('select pg_notify(\'accounts\', \'ines\')')
  await expect.poll(async () => (await ines.get('/api/calls')).status()).toBe(401)
})

test('a console at which nobody is signed in any more goes to the sign-in page', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  await own.sql('delete from session')
  await own.sql('select pg_notify(\'accounts\', \'ines\')')
  await expect(page).toHaveURL(/sign-in/)
  await signIn(page, own.url, 'ines')
})

test('what is sent to change passwords, accounts and sessions, and who signs in, gets no 5xx either', async ({ own }) => {
  const staff = await apiRequests.newContext({ baseURL: own.url })
  await staff.post('/api/session', { data: { signIn: 'staff', password: demoPassword } })
  const texts = [
    '',
    '\u0000',
    '\uD800',
    '%00',
    '%',
    '\u{1F600}'.repeat(30),
    '../../etc',
    '\' or 1=1 --',
    'x'.repeat(400),
    '__proto__',
    'constructor',
    'admin',
    ...fc.sample(fc.string({ unit: 'binary', maxLength: 90 }), { numRuns: 12 }),
  ]
  for (const text of texts) {
    const segment = encodeURIComponent(wellFormed(text)) || 'x'
    for (const [method, path, data] of [
      ['post', '/api/password', { current: text, wanted: text }],
      ['patch', `/api/accounts/${segment}`, { role: text, disabled: text }],
      ['patch', `/api/accounts/${segment}`, { disabled: true }],
      ['post', `/api/accounts/${segment}/password`, {}],
      ['delete', `/api/sessions/${segment}`, undefined],
      ['get', `/api/requests/${segment}`, undefined],
    ] as const) {
      const answer = await staff.fetch(path, { method, ...(data && { data }) })
      expect([403, 404, 405, 422, 429, ...(path.startsWith('/api/requests/') ? [200] : [])], `${method} ${path}: ${answer.status()}`).toContain(answer.status())
    }
    const signing = await staff.post('/api/session', { data: { signIn: text, password: text } })
    expect([401, 422, 429]).toContain(signing.status())
  }
  expect((await staff.get('/api/session')).status()).toBe(200)
})

test('a browser that asks without end is let go, by whatever way, and nobody else waits for it', async ({ own }) => {
  const flood = await come(own, 'staff')
  const others = await come(own, 'ines')
  const cookie = (await flood.storageState()).cookies.map(({ name, value }) => `${name}=${value}`).join('; ')
  const socket = new WebSocket(`${own.url.replace('http', 'ws')}/api/feed`, { headers: { cookie, origin: own.url } })
  await new Promise(resolve => socket.once('open', resolve))
  const closed = new Promise<number>(resolve => socket.once('close', resolve))
  for (let index = 0; index < 4_900; index++) socket.send(JSON.stringify({ type: 'hello', version: feedVersion }))
  const began = performance.now()
  expect((await others.get('/api/session')).status()).toBe(200)
  expect(performance.now() - began).toBeLessThan(5_000)
  expect(await closed).toBe(4_429)
  // Neither by another way, nor on another connection.
  const refused = await flood.get('/api/company')
  expect(refused.status()).toBe(429)
  expect(Number(refused.headers()['retry-after'])).toBeGreaterThan(0)
  expect(await upgrade(own, '/api/feed', { cookie, origin: own.url })).toBe(429)
  expect((await others.get('/api/company')).status()).toBe(200)
})

test('guesses of hours ago lock nobody out', async ({ own }) => {
  const stranger = await apiRequests.newContext({ baseURL: own.url })
  for (let index = 0; index < 12; index++) await guess(stranger, 'tomas')
  expect((await guess(stranger, 'tomas', demoPassword)).status()).toBe(429)
  await own.sql(`update sign_in_limit set at = now() - interval '3 hours', until = null, failures = 12`)
  expect((await guess(stranger, 'tomas')).status()).toBe(401)
  expect((await guess(stranger, 'tomas', demoPassword)).status()).toBe(200)
})
