import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { installDebianPackages } from '../scripts/packages.mjs'
import { answerOf, anyPort } from '../scripts/processes.mjs'
import { alone, expect, signedIn } from './stage'

/** Programs that nobody here wrote, as Debian has them: a server of address books and calendars, and readers of what we give out. */
const port = await anyPort()
const origin = `http://127.0.0.1:${port}`
const folder = mkdtempSync(join(tmpdir(), 'estafette-peers-'))
const test = alone({ serverEnv: { NUXT_CALENDAR_ORIGINS: origin } })
const python = '/usr/bin/python3'
let radicale: ChildProcess | null = null

const asks = (method: string, path: string, body = '', type = 'text/plain') => fetch(`${origin}${path}`, {
  method, headers: { 'content-type': type, 'authorization': `Basic ${Buffer.from('mer:ry').toString('base64')}` }, ...(body && { body }),
})
/** Runs a program of Python's that is given a file, and reads what it writes as JSON. */
function read(program: string, file: string): unknown {
  return JSON.parse(execFileSync(python, ['-c', program, file], { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 }))
}

test.beforeAll(async () => {
  test.setTimeout(240_000)
  await installDebianPackages(['radicale', 'python3-vobject', 'python3-icalendar', 'khard'],
    () => answerOf('which', ['radicale']) !== null && answerOf('which', ['khard']) !== null && answerOf(python, ['-c', 'import vobject, icalendar']) !== null)
  mkdirSync(join(folder, 'store'))
  writeFileSync(join(folder, 'rights'), '[all]\nuser: .*\ncollection: .*\npermissions: RrWw\n')
  writeFileSync(join(folder, 'config'), [
    '[server]', `hosts = 127.0.0.1:${port}`, '[auth]', 'type = none', '[rights]', 'type = from_file', `file = ${join(folder, 'rights')}`,
    '[storage]', `filesystem_folder = ${join(folder, 'store')}`, '[logging]', 'level = error', '',
  ].join('\n'))
  radicale = spawn(python, ['-m', 'radicale', '--config', join(folder, 'config')], { stdio: 'ignore' })
  await expect.poll(() => fetch(`${origin}/.web/`).then(({ status }) => status, () => 0), { timeout: 30_000 }).toBeGreaterThan(0)
  const collection = (kind: string, name: string) => `<?xml version="1.0"?><mkcol xmlns="DAV:" xmlns:C="urn:ietf:params:xml:ns:${kind}"><set><prop>
    <resourcetype><collection/><C:${name}/></resourcetype><displayname>Harbour</displayname></prop></set></mkcol>`
  expect((await asks('MKCOL', '/mer/')).status).toBeLessThan(500)
  expect((await asks('MKCOL', '/mer/book/', collection('carddav', 'addressbook'), 'text/xml')).status).toBe(201)
  expect((await asks('MKCOL', '/mer/times/', collection('caldav', 'calendar'), 'text/xml')).status).toBe(201)
})
test.afterAll(async () => {
  const child = radicale
  if (!child) return
  const ended = new Promise(resolve => child.once('exit', resolve))
  child.kill('SIGTERM')
  await ended
})

test('another server\'s address book is read and followed, and its calendar is fetched again only when it has changed', async ({ own }) => {
  const admin = await signedIn(own.url, 'admin')
  const card = (uid: string, ...lines: string[]) => ['BEGIN:VCARD', 'VERSION:3.0', `UID:${uid}`, ...lines, 'END:VCARD', ''].join('\r\n')
  const put = (uid: string, ...lines: string[]) => asks('PUT', `/mer/book/${uid}.vcf`, card(uid, ...lines), 'text/vcard')
  expect((await put('a', 'FN:Oda Bellweather', 'N:Bellweather;Oda;;;', 'ORG:Pilots of the Sound', 'TEL;TYPE=CELL:07700 900801')).status).toBe(201)
  expect((await put('b', 'FN:Åse <b>Fenn</b>', 'N:Fenn;Åse;;;', 'TEL:+44 (0)117 496-0802', 'NOTE:one\\ntwo\\, three')).status).toBe(201)
  const added = await admin.post('/api/address-books', { data: { name: 'Harbour', address: `${origin}/mer/book/`, user: 'mer', password: 'ry' } })
  expect(added.status(), await added.text()).toBe(200)
  const { id } = await added.json() as { id: string }
  const contacts = async () => {
    const { changed } = await (await admin.get('/api/contacts?since=0')).json() as {
      changed: { name: string, numbers: { number: string }[], note: string, book: string | null, kind: string }[]
    }
    const people = changed.filter(({ book, kind }) => book === 'Harbour' && kind !== 'company')
    return people.map(({ name, numbers, note }) => [name, numbers[0]?.number, note]).sort()
  }
  await expect.poll(contacts).toEqual([['Oda Bellweather', '+447700900801', ''], ['Åse <b>Fenn</b>', '+441174960802', 'one\ntwo, three']])
  await put('a', 'FN:Oda Skarne', 'N:Skarne;Oda;;;', 'TEL;TYPE=CELL:07700 900801')
  await asks('DELETE', '/mer/book/b.vcf')
  expect((await admin.post('/api/connections/try', { data: { kind: 'addressBook', id } })).status()).toBe(200)
  await expect.poll(contacts).toEqual([['Oda Skarne', '+447700900801', '']])

  const day = new Date(Date.now() + 2 * 24 * 60 * 60_000).toISOString().slice(0, 10).replaceAll('-', '')
  const event = (uid: string, hour: string) => ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Merrowby//EN', 'BEGIN:VEVENT', `UID:${uid}`,
    `DTSTAMP:${day}T000000Z`, `DTSTART:${day}T${hour}0000Z`, 'DURATION:PT1H', 'SUMMARY:Secret', 'END:VEVENT', 'END:VCALENDAR', ''].join('\r\n')
  expect((await asks('PUT', '/mer/times/one.ics', event('one', '09'), 'text/calendar')).status).toBe(201)
  const person = own.cast.state.company.people.p2110!.id
  const taken = await admin.put(`/api/calendars/${person}`, { data: { address: `${origin}/mer/times/`, content: null } })
  expect(taken.status(), await taken.text()).toBe(200)
  const spans = () => own.sql<{ at: string }>('select to_char(from_at at time zone \'UTC\', \'YYYYMMDD HH24\') as at from calendar_span order by from_at')
  expect((await spans()).map(({ at }) => at)).toEqual([`${day} 09`])
  const [before] = await own.sql<{ etag: string | null, modified: string | null }>('select etag, modified from calendar')
  expect(before!.etag ?? before!.modified, 'what it says of its state').not.toBeNull()
  expect((await asks('PUT', '/mer/times/two.ics', event('two', '11'), 'text/calendar')).status).toBe(201)
  expect((await admin.post('/api/connections/try', { data: { kind: 'calendar', id: person } })).status()).toBe(200)
  expect((await spans()).map(({ at }) => at)).toEqual([`${day} 09`, `${day} 11`])
  const [after] = await own.sql<{ etag: string | null, read: string }>('select etag, read_at::text as read from calendar')
  expect((await admin.post('/api/connections/try', { data: { kind: 'calendar', id: person } })).status()).toBe(200)
  expect((await spans()).map(({ at }) => at), 'not changed since').toEqual([`${day} 09`, `${day} 11`])
  expect((await own.sql<{ etag: string | null }>('select etag from calendar'))[0]!.etag).toBe(after!.etag)
})

test('what we give out is read by others as it is here', async ({ own }) => {
  const admin = await signedIn(own.url, 'admin')
  const written = await admin.post('/api/contacts', { data: {
    kind: 'individual', name: 'Wick; "Amberly", of\\Quay', company: null, numbers: [{ number: '0117 496 0803', kind: 'mobile' }],
    addresses: ['wick@amberly.example'], category: 'Nets, ropes', private: false, language: 'nb',
    note: 'First; line.\nSecond, line: \\ and a very long one that has to be folded, because it is Ærlig talt for langt.', readFirst: false, mark: 'none',
  } })
  expect(written.status(), await written.text()).toBe(200)
  const { changed } = await (await admin.get('/api/contacts?since=0')).json() as {
    changed: { name: string, numbers: { number: string }[], addresses: string[], note: string, private: boolean }[]
  }
  const ours = changed.filter(one => !one.private)
    .map(({ name, numbers, addresses, note }) => [name, numbers.map(({ number }) => number).sort(), [...addresses].sort(), note]).sort()
  expect(ours.length).toBeGreaterThan(50)
  const file = async (format: string) => {
    const path = join(folder, `${format}.vcf`)
    writeFileSync(path, await (await admin.get(`/api/contacts/export?format=${format}&which=shared`)).body())
    return path
  }

  const byVobject = read(`
import json, sys, vobject
def texts(card, name): return sorted(line.value for line in card.contents.get(name, []))
cards = vobject.readComponents(open(sys.argv[1], encoding='utf-8', newline=''))
print(json.dumps([[c.fn.value, texts(c, 'tel'), texts(c, 'email'), (texts(c, 'note') or [''])[0]] for c in cards]))
`, await file('vcard3')) as [string, string[], string[], string][]
  const digits = (numbers: string[]) => numbers.map(number => number.replace(/[^+\d]/g, '')).sort()
  expect(byVobject.map(([name, numbers, addresses, note]) => [name, digits(numbers), addresses, note]).sort()).toEqual(ours)

  // Another program, with a book of its own: every card is one that it takes.
  const book = join(folder, 'khard')
  mkdirSync(book)
  for (const format of ['vcard3', 'vcard4']) {
    const path = await file(format)
    const cards = execFileSync('cat', [path], { encoding: 'utf8' }).split(/(?<=END:VCARD\r\n)/).filter(Boolean)
    const own = join(book, format)
    mkdirSync(own)
    cards.forEach((card, at) => writeFileSync(join(own, `${at}.vcf`), card))
    writeFileSync(join(folder, 'khard.conf'), `[addressbooks]\n[[${format}]]\npath = ${own}\n[general]\ndebug = no\n`)
    const listed = execFileSync('khard', ['-c', join(folder, 'khard.conf'), 'list', '--parsable', '--fields', 'formatted_name'], { encoding: 'utf8' })
    expect(listed.split('\n').filter(Boolean).sort(), format).toEqual(ours.map(([name]) => name as string).sort())
  }
})
