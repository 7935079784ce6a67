import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { connect } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import AxeBuilder from '@axe-core/playwright'
import { installDebianPackages } from '../scripts/packages.mjs'
import { answerOf, anyPort } from '../scripts/processes.mjs'
import { alone, expect } from './stage'

/** A house whose people stand in a directory of its own: OpenLDAP's server, as Debian has it, with TLS. */
const port = await anyPort()
const address = `ldap://localhost:${port}`
const folder = mkdtempSync(join(tmpdir(), 'estafette-directory-'))
const authority = join(folder, 'cert.pem')
const test = alone({ serverEnv: { NUXT_CALENDAR_ORIGINS: `${address}, ldap://localhost:1`, NODE_EXTRA_CA_CERTS: authority } })
const keeper = 'cn=keeper,dc=quist,dc=example'
const secret = 'known to the keeper'
let slapd: ChildProcess | null = null

/** Waits until it takes connections. */
async function start(): Promise<void> {
  slapd = spawn('/usr/sbin/slapd', ['-d', '0', '-f', join(folder, 'slapd.conf'), '-h', address], { stdio: 'ignore' })
  await expect.poll(() => new Promise<boolean>((resolve) => {
    const socket = connect(port, 'localhost', () => resolve(true)).on('error', () => resolve(false))
    socket.on('connect', () => socket.end())
  }), { timeout: 20_000 }).toBe(true)
}

async function stop(): Promise<void> {
  const child = slapd
  slapd = null
  if (!child) return
  const ended = new Promise(resolve => child.once('exit', resolve))
  child.kill('SIGTERM')
  await ended
}

/** Changes what stands there (LDIF, RFC 2849). */
function change(ldif: string): void {
  execFileSync('ldapmodify', ['-a', '-x', '-H', address, '-D', keeper, '-w', secret], { input: `${ldif}\n` })
}
const person = (uid: string, ...lines: string[]) => [`dn: uid=${uid},ou=people,dc=quist,dc=example`, 'objectClass: inetOrgPerson', `uid: ${uid}`,
  ...lines, ''].join('\n')
const modify = (uid: string, ...lines: string[]) => [`dn: uid=${uid},ou=people,dc=quist,dc=example`, 'changetype: modify', ...lines, ''].join('\n')

test.beforeAll(async () => {
  test.setTimeout(180_000)
  await installDebianPackages(['slapd', 'ldap-utils'], () => answerOf('/usr/sbin/slapd', ['-VV']) !== null && answerOf('which', ['ldapmodify']) !== null)
  mkdirSync(join(folder, 'data'))
  execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '3', '-subj', '/CN=localhost', '-addext', 'subjectAltName=DNS:localhost',
    '-keyout', join(folder, 'key.pem'), '-out', authority], { stdio: 'ignore' })
  writeFileSync(join(folder, 'slapd.conf'), [
    ...['core', 'cosine', 'inetorgperson'].map(schema => `include /etc/ldap/schema/${schema}.schema`), 'modulepath /usr/lib/ldap', 'moduleload back_mdb',
    `TLSCertificateFile ${authority}`, `TLSCertificateKeyFile ${join(folder, 'key.pem')}`, 'database mdb', 'maxsize 10485760',
    'suffix "dc=quist,dc=example"', `rootdn "${keeper}"`, `rootpw "${secret}"`, `directory ${join(folder, 'data')}`,
    'access to attrs=userPassword by * none', 'access to * by * read', '',
  ].join('\n'))
  await start()
  change(['dn: dc=quist,dc=example\nobjectClass: dcObject\nobjectClass: organization\no: Quist\n',
    'dn: ou=people,dc=quist,dc=example\nobjectClass: organizationalUnit\nou: people\n',
    person('zq', 'cn: Zephyrine Quist', 'givenName: Zephyrine', 'sn: Quist', 'departmentNumber: Nets', 'title: Net keeper', 'telephoneNumber: 2990',
      'mobile: 07700 900555', 'userPassword: never shown'),
    person('ob', 'cn: Otto Brine', 'givenName: Otto', 'sn: Brine', 'departmentNumber: Nets', 'telephoneNumber: 2991'),
    person('uv', 'cn: Una Vale', 'givenName: Una', 'sn:: VmFsZSA8Yj5ib2xkPC9iPg==', 'title: Clerk'),
    person('xx', 'cn: Wrong', 'sn: Wrong', 'telephoneNumber: 0'),
  ].join('\n'))
})
test.afterAll(stop)

test('people come from the house\'s own directory: seen before, kept in step, changed there alone, and shown when they leave it', async ({ own, browser }) => {
  test.setTimeout(120_000)
  const { cast } = own
  const admin = await own.open(browser, 'admin')
  const people = () => Object.values(cast.state.company.people)
  const named = (last: string) => people().find(one => one.last === last)
  const numberOf = (last: string) => Object.values(cast.state.company.telephones).find(one => one.person === named(last)?.id)?.number
  await admin.goto('/company')
  await admin.getByRole('button', { name: 'Directory…' }).click()
  const form = admin.getByRole('form', { name: 'The directory' })
  const now = admin.getByRole('region', { name: 'Now' })
  await expect(now).toContainText('No directory is read.')
  const look = form.getByRole('button', { name: 'See who would come' })

  // What is wrong is said where it is wrong, and nothing is kept.
  await form.getByLabel('Address').fill('directory.house')
  await look.click()
  await expect(form).toContainText('Address must be ldap://host or ldaps://host')
  await form.getByLabel('Address').fill('ldap://10.0.0.1')
  await look.click()
  await expect(form).toContainText('whoever runs it adds that address to NUXT_CALENDAR_ORIGINS')
  await form.getByLabel('Address').fill('ldap://localhost:1')
  await look.click()
  await expect(form).toContainText('The directory can\'t be reached (ECONNREFUSED).')
  await form.getByLabel('Address').fill(address)
  await form.getByLabel('As whom we ask').fill(keeper)
  await form.getByLabel('Password there').fill('a guess')
  await form.getByLabel('Where people stand').fill('ou=people,dc=quist,dc=example')
  await look.click()
  await expect(form).toContainText('does not know cn=keeper,dc=quist,dc=example with that password')
  await form.getByLabel('Password there').fill(secret)
  await form.getByLabel('Who of them').fill('(objectClass=person))(')
  await look.click()
  await expect(form).toContainText('stands in brackets')
  await form.getByLabel('Who of them').fill('(objectClass=person)(mail=*)')
  await look.click()
  await expect(form).toContainText('The filter can\'t be read')
  await form.getByLabel('Who of them').fill('(objectClass=person)')
  await form.getByLabel('Where people stand').fill('ou=nowhere,dc=quist,dc=example')
  await look.click()
  await expect(form).toContainText('has no part ou=nowhere,dc=quist,dc=example')
  await form.getByLabel('Where people stand').fill('ou=people,dc=quist,dc=example')
  await look.click()

  const seen = admin.getByRole('region', { name: 'Who would come' })
  await expect(seen).toContainText('The directory: 3 new, 0 changed, 0 as they are, 1 refused.')
  await expect(seen.getByRole('row', { name: /Wrong refused: 0 is the number of/ })).toBeVisible()
  await expect(seen.getByRole('combobox', { name: 'What departmentnumber holds' })).toBeVisible()
  expect(await seen.textContent()).not.toContain('never shown')
  expect((await new AxeBuilder({ page: admin }).analyze()).violations).toEqual([])
  const before = people().length
  await seen.getByRole('button', { name: 'Bring them in, and keep them in step' }).click()
  await expect(admin.getByText('3 people come from the directory, and are kept in step with it.')).toBeVisible()
  await expect.poll(() => people().length).toBe(before + 3)
  expect(named('Quist')).toMatchObject({ first: 'Zephyrine', role: 'Net keeper', mobile: '+447700900555' })
  expect(numberOf('Quist')).toBe('2990')
  expect(cast.state.company.departments[named('Quist')!.department]).toMatchObject({ name: 'Nets' })
  expect(named('Vale <b>bold</b>'), 'what it says is text').toBeDefined()
  const given = numberOf('Vale <b>bold</b>')
  expect(given, 'with the next number that is free').toMatch(/^\d+$/)
  expect(JSON.stringify(await own.sql('select * from house_directory'))).not.toContain(secret)

  // What is theirs is not changed here: in the form it is to be read, and the server refuses it.
  await admin.goto('/company')
  await admin.getByRole('textbox', { name: 'Filter by name or number' }).fill('Zephyrine')
  await admin.getByRole('button', { name: /Zephyrine Quist/ }).click()
  const details = admin.getByRole('complementary', { name: 'What is chosen' })
  await expect(details.getByText('From the house\'s directory').first()).toBeVisible()
  await expect(details.getByRole('textbox', { name: 'Role' })).toHaveCount(0)
  await details.getByRole('textbox', { name: 'Nickname' }).fill('Zeph')
  await details.getByRole('button', { name: 'Save' }).click()
  await expect.poll(() => named('Quist')?.nickname).toBe('Zeph')
  const quist = named('Quist')!
  const edit = (changed: object) => admin.request.patch('/api/company', { data: {
    seen: [{ part: 'people', id: quist.id, value: cast.state.company.people[quist.id] }],
    changes: [{ part: 'people', id: quist.id, value: { ...cast.state.company.people[quist.id], ...changed } }],
  } })
  const refused = await edit({ role: 'Pilot' })
  expect([refused.status(), (await refused.json() as { message: string }).message]).toEqual(
    [422, 'The role of Zephyrine Quist comes from the house\'s directory, and is changed there. Nothing was changed.'],
  )
  await admin.getByRole('button', { name: /Zephyrine Quist/ }).click()
  await details.getByRole('button', { name: 'Remove…' }).click()
  await details.getByRole('button', { name: 'Remove Zephyrine Quist' }).click()
  await expect(details.getByRole('alert')).toContainText('Zephyrine Quist comes from the house\'s directory, and is taken away there first.')

  // Two change their numbers with each other, one gets another name, one leaves: followed, on record, and nobody is taken away.
  change([
    modify('zq', 'replace: telephoneNumber', 'telephoneNumber: 2991', '-', 'delete: mobile', '-', 'replace: sn', 'sn: Quist-Ferrow'),
    modify('ob', 'replace: telephoneNumber', 'telephoneNumber: 2990'),
    'dn: uid=uv,ou=people,dc=quist,dc=example\nchangetype: delete\n',
  ].join('\n'))
  await admin.goto('/connections')
  await admin.getByRole('button', { name: 'Try The house\'s directory now' }).click()
  await expect(admin.getByRole('row').filter({ hasText: 'The house\'s directory' })).toContainText('2 people; 1 not there any more; 1 refused')
  await expect.poll(() => named('Quist-Ferrow')).toMatchObject({ id: quist.id, mobile: null, nickname: 'Zeph' })
  expect([numberOf('Quist-Ferrow'), numberOf('Brine')]).toEqual(['2991', '2990'])
  expect(numberOf('Vale <b>bold</b>')).toBe(given)

  // Whoever has left is asked about: who comes after them. A call of theirs goes on.
  const telephoneOf = (number: string) => Object.values(cast.state.company.telephones).find(one => one.number === number)!.id
  const { call } = await cast.ask({ service: 'makeCall', device: telephoneOf(given!), number: '2150' })
  await cast.answer('t2150', call!)
  await admin.goto('/company/directory')
  const una = admin.getByRole('group', { name: 'Una Vale <b>bold</b>' })
  await una.getByRole('combobox').fill('Otto')
  await admin.getByRole('option', { name: 'Otto Brine' }).click()
  await una.getByRole('button', { name: /^Let Una Vale/ }).click()
  await expect(una).toBeHidden()
  await expect.poll(() => named('Vale <b>bold</b>')).toBeUndefined()
  expect(Object.values(cast.state.company.telephones).find(({ number }) => number === given)?.person).toBe(named('Brine')!.id)
  expect(cast.state.calls.has(call!)).toBe(true)

  // Away, or empty all at once: said, and nobody counts as gone.
  await stop()
  await admin.getByRole('button', { name: 'Connections' }).click()
  await admin.getByRole('button', { name: 'Try The house\'s directory now' }).click()
  await expect(admin.getByRole('complementary')).toContainText('The directory can\'t be reached')
  await start()
  const put = await admin.request.put('/api/house-directory', { data: {
    address, startTls: true, user: keeper, password: '', base: 'ou=people,dc=quist,dc=example', filter: '(uid=nobody)', numbered: true,
    columns: [{ attribute: 'sn', meaning: 'last' }],
  } })
  expect(await put.json()).toMatchObject({ failure: 'The directory shows nobody there: nothing was changed.' })
  expect(await own.sql('select 1 from house_directory_entry where gone_at is not null')).toEqual([])

  // Nothing that is kept is told to another server.
  const elsewhere = await admin.request.post('/api/house-directory/look', { data: {
    address: 'ldap://localhost:1', startTls: true, user: keeper, password: '', base: '', filter: '(uid=*)', numbered: true, columns: [],
  } })
  expect(await elsewhere.json()).toMatchObject({ data: { field: 'password' } })

  await admin.goto('/company/directory')
  await admin.getByRole('button', { name: 'Read it no more' }).click()
  await expect(admin.getByText('People stay, and are changed here.')).toBeVisible()
  expect((await edit({ role: 'Pilot' })).status()).toBe(200)
  expect(named('Quist-Ferrow')).toBeDefined()

  const other = await own.open(browser, 'ines')
  expect((await other.request.get('/api/house-directory')).status()).toBe(403)
})
