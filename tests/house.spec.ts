import { execFile, execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { expect, test } from '@playwright/test'
import { merrowby } from '../demo/company/merrowby'
import { installDebianPackages } from '../scripts/packages.mjs'
import { startPostgres } from '../scripts/postgres.mjs'
import { answerOf, anyPort } from '../scripts/processes.mjs'
import { Cast, withClient } from './stage'

/** Running it for real, by the commands of docs/operations.md: from an empty PostgreSQL to the sign-in behind TLS, backup, restore, upgrade. */
test.describe.configure({ mode: 'serial' })

const folder = mkdtempSync(join(tmpdir(), 'estafette-house-'))
const [ownerPassword, serverPassword] = ['owner password', 'server-password']
const linkToken = 'a link token of the house'
const metricsToken = 'a token for what is measured'
let postgres: Awaited<ReturnType<typeof startPostgres>>
let superuser: Record<string, string>
let address: (role: string, password: string, name?: string) => string
const running: ChildProcess[] = []
let exchangePort = 0
let serverPort = 0
let keeper = ''

/** A command of ours: what it says, and with which code it ends. */
function command(file: string, args: string[], env: Record<string, string>): { said: string, code: number } {
  try {
    return { said: execFileSync(file, args, { env: { ...process.env, ...env }, encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] }), code: 0 }
  }
  catch (error) {
    const { status, stdout, stderr } = error as { status: number, stdout: string, stderr: string }
    return { said: `${stdout}${stderr}`, code: status }
  }
}
const ours = (name: string, args: string[], env: Record<string, string>) => command(process.execPath, [`.output/commands/${name}.mjs`, ...args], env)
const migrate = (url: string) => ours('migrate', ['--server-role', 'estafette_server'], { DATABASE_OWNER_URL: url })

/** `npm run serve`, or a proxy, until it says that it is there. */
async function serve(file: string, args: string[], env: Record<string, string>, there: RegExp | null): Promise<ChildProcess> {
  const child = spawn(file, args, { env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] })
  running.push(child)
  let said = ''
  for (const stream of [child.stdout!, child.stderr!]) stream.on('data', chunk => said += String(chunk))
  if (there) await expect.poll(() => there.test(said) ? 'there' : child.exitCode === null ? 'not yet' : said, { timeout: 60_000 }).toBe('there')
  return child
}

async function ended(child: ChildProcess): Promise<void> {
  child.kill('SIGTERM')
  await expect.poll(() => child.exitCode ?? child.signalCode).not.toBeNull()
}

const settings = (): Record<string, string> => {
  const file = join(folder, 'database-url')
  writeFileSync(file, address('estafette_server', serverPassword), { mode: 0o600 })
  return {
    NUXT_DATABASE_URL_FILE: file, NUXT_LINK_TOKEN: linkToken, NUXT_SESSION_PASSWORD: 'p'.repeat(40), NUXT_METRICS_TOKEN: metricsToken, NUXT_TRUST_PROXY: 'true',
    NUXT_EXCHANGE_PORT: String(exchangePort), NITRO_PORT: String(serverPort),
  }
}
const serveExchange = () => serve(process.execPath, ['scripts/serve.mjs', 'exchange'], settings(), /serving the exchange/)
const serveServer = () => serve(process.execPath, ['scripts/serve.mjs', 'server'], settings(), /serving the server/)
const ready = () => expect.poll(async () => (await fetch(`http://127.0.0.1:${serverPort}/api/ready`).catch(() => null))?.status, { timeout: 60_000 }).toBe(200)

test.beforeAll(async () => {
  test.setTimeout(240_000)
  postgres = await startPostgres('house-postgres', { fresh: true })
  const url = new URL(postgres.superuserUrl)
  superuser = { PGHOST: url.hostname, PGPORT: url.port, PGUSER: url.username, PGPASSWORD: url.password, PGDATABASE: 'postgres' }
  address = (role, password, name = 'estafette') => `postgres://${role}:${encodeURIComponent(password)}@${url.host}/${name}`
  exchangePort = await anyPort()
  serverPort = await anyPort()
  await installDebianPackages(['nginx-light', 'caddy'], () => ['nginx', 'caddy'].every(name => answerOf('which', [name]) !== null
    || answerOf(`/usr/sbin/${name}`, ['-v']) !== null))
})

test.afterAll(async () => {
  for (const child of running) child.kill('SIGTERM')
  await postgres.stop()
})

test('two roles and a database, brought up to date by a command that says what it did, or what is wrong', async () => {
  expect(command('deploy/roles.sh', [], { ...superuser, OWNER_PASSWORD: ownerPassword, SERVER_PASSWORD: serverPassword }).code).toBe(0)
  for (const [url, sentence] of [
    [address('estafette_owner', 'a wrong one'), /the password is wrong\. Check the address/], [address('estafette_owner', ownerPassword, 'none'),
      /there is no such database/],
    ['mysql://x/y', /DATABASE_OWNER_URL must begin with postgres:\/\//], [`postgres://x@127.0.0.1:${await anyPort()}/y`, /nothing answers at that address/],
  ] as const) {
    const { said, code } = migrate(url)
    expect([said, code]).toEqual([expect.stringMatching(sentence), 2])
    expect(said, 'a sentence, no stack').not.toMatch(/\n {4}at /)
  }
  const first = migrate(address('estafette_owner', ownerPassword))
  expect([first.said, first.code]).toEqual([expect.stringMatching(/up to date now: \d+ steps were made/), 0])
  expect(migrate(address('estafette_owner', ownerPassword)).said).toContain('The database was up to date.')

  // A database that holds something else stays as it is.
  await withClient(postgres.superuserUrl, client => client.query('create database others owner estafette_owner'))
  const others = address('estafette_owner', ownerPassword, 'others')
  await withClient(others, client => client.query('create table invoices (id int)'))
  expect(migrate(others)).toEqual({ said: expect.stringContaining('tables that are none of ours (invoices)') as unknown as string, code: 2 })
})

test('wrong settings are told all at once, and nothing is begun', () => {
  const { said, code } = command(process.execPath, ['scripts/serve.mjs', 'server'], { NUXT_EXCHANGE_PORT: 'x', NUXT_SESSION_PASSWORD: 'short',
    NUXT_TRUST_PROXI: 'true' })
  expect(code).toBe(78)
  for (const name of ['NUXT_DATABASE_URL is missing', 'NUXT_EXCHANGE_PORT must be', 'NUXT_LINK_TOKEN is missing', 'NUXT_SESSION_PASSWORD has 5',
    'NUXT_TRUST_PROXI is no setting'])
    expect(said).toContain(name)
})

test('served without the demo, with its first administrator; alive, ready, measured', async ({ request }) => {
  await serveExchange()
  await serveServer()
  await ready()
  // Made twice at one moment, it is one administrator all the same.
  const url = address('estafette_server', serverPassword)
  const made = await Promise.all([0, 1].map(() =>
    promisify(execFile)(process.execPath, ['.output/commands/administrator.mjs', 'keeper'], { env: { ...process.env, NUXT_DATABASE_URL: url } })))
  expect(made.map(({ stdout }) => stdout.split('\n')[0]).sort()).toEqual(['keeper has a new password.', 'keeper is an administrator now.'])
  expect(await withClient(url, async client => (await client.query('select role from account')).rows)).toEqual([{ role: 'administrator' }])
  keeper = /shown this once: (\S+)/.exec(ours('administrator', ['keeper'], { NUXT_DATABASE_URL: url }).said)![1]!
  const at = (path: string, headers = {}) => request.get(`http://127.0.0.1:${serverPort}${path}`, { headers })
  expect(await (await at('/api/health')).json()).toMatchObject({ status: 'ok' })
  expect((await at('/metrics')).status()).toBe(401)
  const measured = await (await at('/metrics', { authorization: `Bearer ${metricsToken}` })).text()
  for (const name of ['estafette_up 1', 'estafette_calls 0', 'estafette_queue_waiting{queue="operators"} 0', 'estafette_journal_behind_events',
    'estafette_process_resident_memory_bytes'])
    expect(measured).toContain(name)
  expect(measured).not.toContain('keeper')

  // What never changes comes packed, and is kept; an address where nothing is says so.
  const page = await (await at('/sign-in')).text()
  const script = /\/_nuxt\/[\w-]+\.js/.exec(page)![0]
  const packed = await at(script, { 'accept-encoding': 'br' })
  expect([packed.headers()['content-encoding'], packed.headers()['cache-control']]).toEqual(['br', expect.stringContaining('immutable')])
  for (const [path, status] of [['/', 200], ['/company/people', 200], ['/nowhere', 404], ['/admin.php', 404], ['/_nuxt/nothing.js', 404], ['/api/nothing',
    404]] as const)
    expect((await at(path)).status(), path).toBe(status)
})

for (const proxy of ['nginx', 'caddy'] as const) {
  test(`behind ${proxy}, which ends TLS: signing in, and the live feed`, async ({ browser }) => {
    const port = await anyPort()
    const [certificate, key] = [join(folder, 'fullchain.pem'), join(folder, 'key.pem')]
    execFileSync('openssl', [
      'req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=127.0.0.1', '-addext', 'subjectAltName=IP:127.0.0.1', '-keyout', key,
      '-out', certificate,
    ], { stdio: 'ignore' })
    const given = readFileSync(proxy === 'nginx' ? 'deploy/nginx.conf' : 'deploy/Caddyfile', 'utf8').replace('127.0.0.1:3000', `127.0.0.1:${serverPort}`)
    const file = join(folder, proxy)
    if (proxy === 'nginx') {
      const site = given.replace('listen 443', `listen 127.0.0.1:${port}`).replace('/etc/ssl/estafette/fullchain.pem', certificate)
        .replace('/etc/ssl/estafette/key.pem', key)
      writeFileSync(file, `pid ${folder}/nginx.pid;\nerror_log stderr;\nevents {}\nhttp { access_log off; ${
        ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(kind => `${kind}_temp_path ${folder}/${kind};`).join(' ')}\n${site}}\n`)
      await serve('nginx', ['-p', folder, '-c', file, '-g', 'daemon off;'], { PATH: `${process.env.PATH}:/usr/sbin` }, null)
    }
    else {
      writeFileSync(file, `{\n\tadmin off\n\tauto_https disable_redirects\n}\n${given.replace('console.example {', `https://127.0.0.1:${port} {\n\ttls ${certificate} ${key}`)}`)
      await serve('caddy', ['run', '--adapter', 'caddyfile', '--config', file], { HOME: folder, XDG_DATA_HOME: folder, XDG_CONFIG_HOME: folder }, null)
    }
    const context = await browser.newContext({ baseURL: `https://127.0.0.1:${port}`, ignoreHTTPSErrors: true, viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    await expect.poll(async () => (await context.request.get('/api/ready').catch(() => null))?.status(), { timeout: 30_000 }).toBe(200)
    await page.goto('/sign-in')
    await page.getByLabel('Sign-in name').fill('keeper')
    await page.getByLabel('Password').fill(keeper)
    await page.getByRole('button', { name: 'Sign in' }).click()
    // The feed has come: the house is known, and that it is not ready.
    await expect(page.getByText('This house can\'t answer a call yet.')).toBeVisible()
    const [cookie] = await context.cookies()
    expect(cookie).toMatchObject({ secure: true, httpOnly: true, sameSite: 'Lax' })
    if (proxy === 'caddy') {
      // For what follows the house has a company: all of it from one file.
      const { version: _made, ...company } = merrowby(20)
      const origin = { origin: `https://127.0.0.1:${port}` }
      const file = { format: 'estafette-company', formatVersion: 1, company: { version: 0, ...company } }
      const taken = await context.request.post('/api/company/file', { headers: origin, data: { carryOut: true, file } })
      expect(await taken.json()).toMatchObject({ faults: [] })
      const newer = await context.request.post('/api/company/file', { headers: origin, data: { carryOut: true, file: { ...file, formatVersion: 2 } } })
      expect([newer.status(), (await newer.json()).message]).toEqual([422, expect.stringContaining('formatVersion')])
    }
    await context.close()
  })
}

test('an upgrade with a migration while somebody talks: the call goes on; what was backed up is restored, and closed to others', async () => {
  test.setTimeout(240_000)
  const cast = await Cast.join(exchangePort, linkToken)
  await expect.poll(() => Object.keys(cast.state.company.lines).length).toBeGreaterThan(0)
  cast.present(['t2100'])
  const call = await cast.ring('Patient Caller')
  expect((await cast.answer('t2100', call)).refusal).toBeUndefined()

  await ended(running[1]!)
  expect(migrate(address('estafette_owner', ownerPassword)).code).toBe(0)
  await serveServer()
  await ready()
  expect(cast.state.calls.get(call)?.connections.filter(({ state }) => state === 'connected')).toHaveLength(2)
  await cast.hangUp(call)
  const logged = (url: string) => withClient(url, async client => (await client.query<{ name: string
    outcome: string }>('select name, outcome from call_record')).rows)
  await expect.poll(() => logged(postgres.superuserUrl.replace(/postgres$/, 'estafette'))).toEqual([{ name: 'Patient Caller', outcome: 'answered' }])

  // One of the version before stays beside one of the next, whose migration only adds: it begins, and writes down what happens.
  const owner = address('estafette_owner', ownerPassword)
  await withClient(owner, client => client.query(`alter table call_record add column later text not null default '';
    insert into mikro_orm_migrations (name, executed_at) values ('20991231_later', now())`))
  await ended(running.at(-1)!)
  await serveServer()
  await ready()
  const another = await cast.ring('Another Caller')
  await cast.hangUp(another)
  await expect.poll(async () => (await logged(owner)).map(({ name }) => name).sort()).toEqual(['Another Caller', 'Patient Caller'])
  await withClient(owner, client => client.query(`alter table call_record drop column later; delete from mikro_orm_migrations where name = '20991231_later'`))

  // What ends unasked is started again, also when somebody else has its port for a while.
  const keeper = running.at(-1)!
  const said: string[] = []
  for (const stream of [keeper.stdout!, keeper.stderr!]) stream.on('data', chunk => said.push(String(chunk)))
  const [child] = execFileSync('pgrep', ['-P', String(keeper.pid)], { encoding: 'utf8' }).split('\n')
  process.kill(Number(child), 'SIGKILL')
  const thief = createServer(socket => socket.destroy())
  await expect.poll(() => new Promise(resolve => thief.once('error', () => resolve(false)).listen(serverPort, '127.0.0.1', () => resolve(true)))).toBe(true)
  await expect.poll(() => said.join('').match(/The server could not be started/g)?.length ?? 0, { timeout: 30_000 }).toBeGreaterThan(1)
  await new Promise(resolve => thief.close(resolve))
  await ready()
  expect(said.join('')).toContain('the server ended unasked; starting it again')
  cast.goHome()

  const dump = join(folder, 'estafette.dump')
  expect(command('deploy/backup.sh', [dump], { DATABASE_OWNER_URL: address('estafette_owner', ownerPassword) })).toEqual({ said: '', code: 0 })
  const restored = command('deploy/restore.sh', [dump, 'estafette_again'], superuser)
  expect(restored.code, restored.said).toBe(0)
  expect(migrate(address('estafette_owner', ownerPassword, 'estafette_again')).said).toContain('was up to date')
  const again = await logged(address('estafette_server', serverPassword, 'estafette_again'))
  expect(again.map(({ name }) => name).sort()).toEqual(['Another Caller', 'Patient Caller'])
  await withClient(postgres.superuserUrl, client => client.query('create role stranger login password \'s\''))
  await expect(withClient(address('stranger', 's', 'estafette_again'), client => client.query('select 1'))).rejects.toThrow(/permission denied for database/)
  await expect(withClient(address('estafette_server', serverPassword, 'estafette_again'), client => client.query('delete from journal')))
    .rejects.toThrow(/permission denied/)
})
