import { randomUUID } from 'node:crypto'
import { parseArgs } from 'node:util'
import type { EntityManager } from '@mikro-orm/postgresql'
import type { Company } from '../core/company/company'
import { readStays } from '../core/occupancy/csv'
import { Passwords } from '../server/accounts/passwords'
import { writeCompany } from '../server/company/rows'
import { Account, CalendarEntity, ContactEntity, ContactNumberEntity, KeyPageEntity, MessageEntity, OccupancyEntity } from '../server/database/entities'
import { connectDatabase } from '../server/database/orm'
import type { Role } from '../shared/roles'
import { merrowby } from './company/merrowby'
import { regularsOf } from './company/contacts'
import { speedKeyPages } from './company/speed-keys'
import { demoNow } from './clock'
import { calendarOf, occupantsAt, rosterOf, sharesCalendar } from './company/whereabouts'

/** The sign-ins of the demo; the password is the same for all and printed by the start command. */
const accounts: { signIn: string, role: Role, person: number | null, name?: string }[] = [
  { signIn: 'ines', role: 'operator', person: 0 },
  { signIn: 'tomas', role: 'operator', person: 1 },
  { signIn: 'bryony', role: 'supervisor', person: 2 },
  { signIn: 'admin', role: 'administrator', person: null, name: 'Administrator' },
  { signIn: 'staff', role: 'staff', person: 140 },
]
const password = 'hand-me-over'

const hour = 3_600_000

/** Messages taken down lately. `to`: whose, by the order of the telephones. */
const notes = [
  {
    to: 0, from: 'tomas', caller: 'Gesa Tidemark', number: '+442079460177',
    text: 'Thanks for yesterday; the invoice is right now.',
    urgent: false, callBack: false, hoursAgo: 3, read: false,
  },
  {
    to: 0, from: 'bryony', caller: 'Oswald Brine', number: '+447700900231',
    text: 'Asks for you by name. Rings again before noon.',
    urgent: false, callBack: true, hoursAgo: 21, read: true,
  },
  {
    to: 50, from: 'ines', caller: 'Hallow Island Dairy', number: '+447700900118',
    text: 'The milk for the Curlew comes an hour later on Thursday.',
    urgent: false, callBack: false, hoursAgo: 2, read: false,
  },
  {
    to: 17, from: 'ines', caller: 'Pennick & Vale Haulage', number: '+442079460409',
    text: 'Two lorries for Friday: is there room on deck?',
    urgent: true, callBack: true, hoursAgo: 5, read: true,
  },
  {
    to: 88, from: 'ines', caller: null, number: '+447700900412',
    text: 'Left a red umbrella on the Sandpiper, upper saloon.',
    urgent: false, callBack: true, hoursAgo: 26, read: true,
  },
]

/** The command that fills an empty database with Merrowby Ferries; a filled one stays as it is. NUXT_DATABASE_URL holds the database as the server uses it. */
const { values } = parseArgs({
  options: {
    people: { type: 'string', default: '182' },
    /** Days of made-up history that are to stand behind the company: `demo/remember.ts` makes them. */
    history: { type: 'string', default: '0' },
    /** ISO 8601: the history ends before; now by default. */
    until: { type: 'string' },
    /** Where calendars are served; without it they are put in as files. */
    calendars: { type: 'string' },
  },
})
const url = process.env.NUXT_DATABASE_URL
const size = Number(values.people)
const days = Number(values.history)
const until = values.until === undefined ? demoNow() : Date.parse(values.until)
const isWhole = (value: number, least: number, most: number) => Number.isSafeInteger(value) && value >= least && value <= most
if (!url || !isWhole(size, 1, 20_000) || !isWhole(days, 0, 400) || Number.isNaN(until)) {
  console.error('Set NUXT_DATABASE_URL to the database as the server uses it; --people is a whole number up to 20000, --history one up to 400, --until a time.')
  process.exit(2)
}
const passwords = new Passwords()
const orm = await connectDatabase(url)
try {
  await orm.em.fork().transactional(seed)
}
finally {
  passwords.close()
  await orm.close(true)
}

async function seed(tx: EntityManager): Promise<void> {
  if (await tx.count(Account) > 0) return renewAddresses(tx)
  const hashes = await Promise.all(accounts.map(() => passwords.hash(password)))
  const company = merrowby(size)
  await writeCompany(tx, company)
  const people = Object.values(company.people)
  await tx.insertMany(Account, accounts.map(({ signIn, role, person, name }, index) => {
    const who = person === null ? undefined : people[person]
    return { signIn, role, passwordHash: hashes[index]!, name: who ? `${who.first} ${who.last}` : name ?? signIn, person: who?.id ?? null, disabled: false }
  }))
  await tx.insertMany(KeyPageEntity, speedKeyPages(company).map((page, position) => ({ id: randomUUID(), owner: null, position, version: 1, ...page })))
  await introduce(tx, company)
  if (days > 0) await prepareHistory(tx, company)
  if (days > 0) await share(tx, company)
}

/** Where the office's calendars are served can change from one start to the next. */
async function renewAddresses(tx: EntityManager): Promise<void> {
  if (!values.calendars) return
  for (const table of ['calendar', 'address_book'])
    await tx.execute(`update ${table} set address = regexp_replace(address, '^http://127[.]0[.]0[.]1:\\d+', ?), next_at = now()`, [values.calendars])
}

/** The calendars of those who share them, the rosters, the harbour's address book, and who is at which place. */
async function share(tx: EntityManager, company: Company): Promise<void> {
  const people = Object.keys(company.people).flatMap((of, index) =>
    sharesCalendar(index) ? [{ of, path: `people/${of}.ics`, content: () => calendarOf(index) }] : [])
  const rosters = Object.keys(company.duties).map(of => ({ of, path: `rosters/${of}.ics`, content: () => rosterOf(company, of) }))
  await tx.insertMany(CalendarEntity, [...rosters, ...people].map(({ of, path, content }) => ({
    of, address: values.calendars ? `${values.calendars}/${path}` : null, content: values.calendars ? '' : content(), problems: [], failure: null,
    readAt: null, nextAt: new Date(0), changedBy: 'admin',
  })))
  if (values.calendars) {
    await tx.execute(
      'insert into address_book (id, name, address, user_name, secret, next_at) values (\'harbour\', \'Harbour association\', ?, \'\', \'\', now())',
      [`${values.calendars}/books/harbour/`],
    )
  }
  const read = readStays(company, occupantsAt(until))
  const stays = 'stays' in read ? read.stays : []
  await tx.insertMany(OccupancyEntity, stays.map(({ telephone, name }, index) =>
    ({ id: randomUUID(), telephone, name, fromAt: new Date(until - (index + 1) * hour / 2), toAt: null })))
}

/** Whoever calls again and again is known, most of them. */
async function introduce(tx: EntityManager, company: Company): Promise<void> {
  const firms = new Map<string, string>()
  for (const [index, { contact, firm }] of regularsOf(company).entries()) {
    if (index % 9 === 7) continue
    const { kind, name, language, note, readFirst, mark, numbers, category } = contact
    const id = randomUUID()
    if (kind === 'company') firms.set(name, id)
    await tx.insert(ContactEntity, {
      id, kind, name, language, note, readFirst, mark, category, company: (firm && firms.get(firm)) ?? null, change: index + 1, changedBy: 'admin',
    })
    await tx.insertMany(ContactNumberEntity, numbers.map((one, position) => ({ contact: id, position, ...one })))
  }
}

/** Which weeks are to be made up, and the messages taken down in the last days of them. */
async function prepareHistory(tx: EntityManager, company: Company): Promise<void> {
  await tx.execute('insert into history_under_way (weeks, done, until) values (?, 0, ?)', [Math.ceil(days / 7) + 1, new Date(until)])
  const writers = await tx.find(Account, { signIn: { $in: notes.map(({ from }) => from) } })
  const telephones = Object.keys(company.telephones)
  await tx.insertMany(MessageEntity, notes.map(({ to, from, hoursAgo, read, ...note }) => ({
    ...note, id: randomUUID(), kind: 'text' as const, to: telephones[Math.min(to, telephones.length - 1)]!, from,
    fromName: writers.find(({ signIn }) => signIn === from)!.name, seconds: null,
    at: new Date(until - hoursAgo * hour), readAt: read ? new Date(until - (hoursAgo - 1) * hour) : null,
  })))
}
