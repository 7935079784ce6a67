import { randomUUID } from 'node:crypto'
import type { EntityManager } from '@mikro-orm/postgresql'
import { plainLines, plainText } from '~~/core/calls/text'
import { readDialled } from '~~/core/numbers/dialled'
import { longest, mostAddresses, mostNumbers } from '~~/core/formats/contact-fields'
import type { Contact, ContactKind, NewContact } from '~~/shared/contacts'
import { homeIn } from '../company/home'
import { inTurn } from '../database/turns'
import { spoken } from '~~/words/phrase'
import { wrongInput } from '../validation/read'
import { t } from '../language'

/**
 * Whom we know outside: shared by all who answer for the company, or one's own, which nobody else sees. Every change has a number, by which a console asks for
 * what it has missed.
 */

const channel = 'contacts'

type Row = Omit<Contact, 'numbers' | 'readFirst' | 'private'>
  & { read_first: boolean, numbers: Contact['numbers'] | null, owner: string | null, removed: boolean, change: number }

/** `more`: columns beside what a contact shows. */
export const selecting = (more = '') => `
  select c.id, c.kind, c.name, c.company, c.language, c.note, c.read_first, c.mark, c.category, c.addresses, c.owner, c.version, c.removed, c.change,
    (select b.name from address_book b where b.id = c.book) as book,
    (select json_agg(json_build_object('number', n.number, 'kind', n.kind) order by n.position) from contact_number n where n.contact = c.id) as numbers
    ${more} from contact c`
const select = selecting()

function contactOf({ read_first: readFirst, removed: _removed, change: _change, owner, numbers, ...row }: Row): Contact {
  return { ...row, readFirst, numbers: numbers ?? [], private: owner !== null }
}

/** What has changed since a change that is known, as somebody may see it: what is another's own is no more, for them. */
export async function contactsSince(em: EntityManager, who: string, since: number) {
  const rows = await em.execute<Row[]>(`${select} where c.change > ? order by c.change`, [since])
  const sees = ({ removed, owner }: Row) => !removed && (owner === null || owner === who)
  return {
    latest: rows.at(-1)?.change ?? since,
    changed: rows.filter(sees).map(contactOf),
    removed: rows.filter(row => !sees(row)).map(({ id }) => id),
  }
}

/** All that somebody may see, in the order of their names. */
export async function contactsFor(em: EntityManager, who: string): Promise<(Contact & { uid: string | null, card: string[] })[]> {
  const rows = await em.execute<(Row & { uid: string | null, card: string[] })[]>(
    `${selecting(', c.uid, c.card')} where not c.removed and (c.owner is null or c.owner = ?) order by lower(c.name), c.id`,
    [who],
  )
  return rows.map(row => ({ ...contactOf(row), uid: row.uid, card: row.card }))
}

export async function addContact(em: EntityManager, by: string, given: NewContact): Promise<Contact> {
  const id = randomUUID()
  return changing(em, async (tx, change) => {
    const contact = await kept(tx, by, id, given)
    await insert(tx, by, id, change, contact)
    return { id, ...contact, version: 1, book: null }
  })
}

/** @throws 404, or 409 when somebody else has changed it since that version */
export async function changeContact(em: EntityManager, by: string, id: string, seen: number, given: NewContact): Promise<Contact> {
  return changing(em, async (tx, change) => {
    await seenAs(tx, by, id, seen)
    const contact = await kept(tx, by, id, given)
    await update(tx, by, id, change, contact)
    return { id, ...contact, version: seen + 1, book: null }
  })
}

/** @throws 404, or 409 when somebody else has changed it since that version */
export async function removeContact(em: EntityManager, by: string, id: string, seen: number): Promise<void> {
  await changing(em, async (tx, change) => {
    await seenAs(tx, by, id, seen)
    await takeAway(tx, by, id, change)
  })
}

/**
 * Two that are the same become one: numbers and note of the other are taken over, whoever belonged to it belongs to this one.
 * @throws 404 when either is not there, 409 when this one has changed since that version, 422 for one with itself
 */
export async function mergeContacts(em: EntityManager, by: string, id: string, seen: number, other: string): Promise<Contact> {
  if (id === other) throw wrongInput('other', t('answers.otherContact'))
  return changing(em, async (tx, change) => {
    const into = await seenAs(tx, by, id, seen)
    const [row] = await tx.execute<Row[]>(`${select} where c.id = ? and not c.removed and (c.owner is null or c.owner = ?)`, [other, by])
    if (!row) throw createError({ statusCode: 404, message: t('answers.otherContactIsGone') })
    refuseOfBook(row)
    const from = contactOf(row)
    const numbers = [...into.numbers, ...from.numbers.filter(({ number }) => !into.numbers.some(one => one.number === number))]
    if (numbers.length > mostNumbers) throw wrongInput('other', t('answers.togetherTooManyNumbers', { most: mostNumbers }))
    const note = [into.note, from.note].filter(Boolean).join('\n')
    if (note.length > longest.note) throw wrongInput('other', t('answers.togetherTooLongNotes', { most: longest.note }))
    const mark = into.mark === 'none' ? from.mark : into.mark
    const addresses = [...new Set([...into.addresses, ...from.addresses])]
    if (addresses.length > mostAddresses) throw wrongInput('other', t('answers.togetherTooManyAddresses', { most: mostAddresses }))
    if (into.kind === 'company') await tx.execute('update contact set company = ?, change = ?, version = version + 1 where company = ?', [id, change, other])
    await takeAway(tx, by, other, change)
    await tx.execute(
      `update contact set note = ?, read_first = ?, mark = ?, language = ?, addresses = ?::jsonb, version = version + 1, change = ?, changed_by = ?,
      changed_at = now() where id = ?`,
      [note, into.readFirst || from.readFirst, mark, into.language || from.language, JSON.stringify(addresses), await nextChange(tx), by, id],
    )
    await writeNumbers(tx, id, numbers)
    const [merged] = await tx.execute<Row[]>(`${select} where c.id = ?`, [id])
    return contactOf(merged!)
  })
}

/** The numbers of a company and of everybody there, and its name, as far as somebody may know it: for whoever calls from one of them. */
export async function companyOfNumber(
  em: EntityManager, who: string, number: string,
): Promise<{ caller: string, company: string | null, numbers: string[] } | null> {
  const [found] = await em.execute<{ name: string, id: string, kind: ContactKind, company: string | null, companyName: string | null }[]>(
    `select c.id, c.kind, c.name, c.company, k.name as "companyName" from contact_number n join contact c on c.id = n.contact
    left join contact k on k.id = c.company and not k.removed
    where n.number = ? and not c.removed and (c.owner is null or c.owner = ?) order by c.kind = 'company', c.id limit 1`,
    [number, who],
  )
  if (!found) return null
  const company = found.kind === 'company' ? found.id : found.companyName === null ? null : found.company
  if (company === null) return { caller: found.name, company: null, numbers: [number] }
  const numbers = await em.execute<{ number: string }[]>(
    'select n.number from contact_number n join contact c on c.id = n.contact where not c.removed and (c.id = ? or c.company = ?)'
    + ' and (c.owner is null or c.owner = ?) limit 500',
    [company, company, who],
  )
  return { caller: found.name, company: found.kind === 'company' ? found.name : found.companyName, numbers: numbers.map(one => one.number) }
}

/** Changes come one after the other, each with a number of its own: whoever has seen one has seen all before it. */
export function changing<T>(em: EntityManager, work: (tx: EntityManager, change: number) => Promise<T>): Promise<T> {
  return inTurn(em, channel, async tx => work(tx, await nextChange(tx)))
}

async function nextChange(tx: EntityManager): Promise<number> {
  await tx.execute(`select pg_notify('${channel}', '')`)
  const [{ next } = { next: 1 }] = await tx.execute<{ next: number }[]>('select coalesce(max(change), 0) + 1 as next from contact')
  return next
}

async function seenAs(tx: EntityManager, who: string, id: string, seen: number): Promise<Contact> {
  const [row] = await tx.execute<Row[]>(`${select} where c.id = ? and not c.removed and (c.owner is null or c.owner = ?)`, [id, who])
  if (!row) throw createError({ statusCode: 404, message: t('answers.contactIsGone') })
  if (row.version !== seen) {
    const [{ by } = { by: t('answers.somebodyElse') }] = await tx.execute<{ by: string }[]>(
      'select coalesce(a.name, c.changed_by) as by from contact c left join account a on a.sign_in = c.changed_by where c.id = ?', [id],
    )
    throw createError({ statusCode: 409, message: t('answers.contactChangedMeanwhile', { by }) })
  }
  refuseOfBook(row)
  return contactOf(row)
}

/** @throws 409 for one that is changed elsewhere */
function refuseOfBook({ book, name }: Row): void {
  if (book !== null) throw createError({ statusCode: 409, message: t('answers.comesFromABook', { name, book }) })
}

/** A contact as it can be kept: texts clean, numbers in E.164, its company one that is there. */
export async function kept(tx: EntityManager, who: string, id: string, given: NewContact): Promise<NewContact> {
  const name = plainText(given.name, longest.name)
  if (!name) throw wrongInput('name', t('answers.nameIsMissing'))
  const home = await homeIn(tx)
  const numbers = given.numbers.map(({ number, kind }, index) => {
    const dialled = readDialled(number, home)
    if (dialled.kind === 'outside') return { number: dialled.e164, kind }
    const why = dialled.kind === 'invalid' ? spoken(t, dialled.why) : t('answers.moreDigits')
    throw wrongInput(`numbers[${index}].number`, t('answers.numberAndWhy', { number: plainText(number, 40), why }))
  })
  const twice = numbers.find(({ number }, index) => numbers.findIndex(one => one.number === number) < index)
  if (twice) throw wrongInput('numbers', t('answers.numberTwice', { number: twice.number }))
  const company = given.kind === 'person' ? given.company : null
  if (company !== null) {
    // A shared person is of no company that only one of us sees.
    const [there] = await tx.execute<{ kind: ContactKind }[]>(
      'select kind from contact where id = ? and not removed and (owner is null or owner = ?) for share', [company, given.private ? who : null],
    )
    if (there?.kind !== 'company' || company === id) throw wrongInput('company', t('answers.companyIsGone'))
  }
  const [language, category] = [plainText(given.language, longest.language), plainText(given.category, longest.category)]
  const note = plainLines(given.note, longest.note)
  return { ...given, name, numbers, company, language, note, category, addresses: [...new Set(given.addresses.map(one => plainText(one, longest.address)))] }
}

/** What only an import knows of a contact: by what it is known elsewhere, and the lines of its card. */
export interface Origin { uid: string | null, card: readonly string[] }

export async function insert(
  tx: EntityManager, by: string, id: string, change: number, contact: NewContact, { uid, card }: Origin = { uid: null, card: [] },
): Promise<void> {
  await tx.execute(
    `insert into contact (id, kind, name, company, language, note, read_first, mark, category, addresses, owner, uid, card, change, changed_by)
    values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?::jsonb, ?, ?, ?::jsonb, ?, ?)`,
    [id, contact.kind, contact.name, contact.company, contact.language, contact.note, contact.readFirst, contact.mark, contact.category,
      JSON.stringify(contact.addresses), contact.private ? by : null, uid, JSON.stringify(card), change, by],
  )
  await writeNumbers(tx, id, contact.numbers)
}

export async function update(tx: EntityManager, by: string, id: string, change: number, contact: NewContact): Promise<void> {
  // Nobody is of a company that is none any more, or that they can't see.
  if (contact.kind !== 'company') await leaveCompany(tx, id, change)
  else if (contact.private) {
    const others = 'where company = ? and owner is distinct from ?'
    await tx.execute(`update contact set company = null, change = ?, version = version + 1 ${others}`, [change, id, by])
  }
  await tx.execute(
    `update contact set kind = ?, name = ?, company = ?, language = ?, note = ?, read_first = ?, mark = ?, category = ?, addresses = ?::jsonb, owner = ?,
      version = version + 1, change = ?, changed_by = ?, changed_at = now() where id = ?`,
    [contact.kind, contact.name, contact.company, contact.language, contact.note, contact.readFirst, contact.mark, contact.category,
      JSON.stringify(contact.addresses), contact.private ? by : null, change, by, id],
  )
  await writeNumbers(tx, id, contact.numbers)
}

async function writeNumbers(tx: EntityManager, id: string, numbers: Contact['numbers']): Promise<void> {
  await tx.execute('delete from contact_number where contact = ?', [id])
  for (const [position, { number, kind }] of numbers.entries())
    await tx.execute('insert into contact_number (contact, number, kind, position) values (?, ?, ?, ?)', [id, number, kind, position])
}

async function leaveCompany(tx: EntityManager, company: string, change: number): Promise<void> {
  await tx.execute('update contact set company = null, change = ?, version = version + 1 where company = ?', [change, company])
}

export async function takeAway(tx: EntityManager, by: string, id: string, change: number): Promise<void> {
  await leaveCompany(tx, id, change)
  await tx.execute('delete from contact_number where contact = ?', [id])
  await tx.execute(
    'update contact set removed = true, company = null, change = ?, version = version + 1, changed_by = ?, changed_at = now() where id = ?', [change, by, id],
  )
}
