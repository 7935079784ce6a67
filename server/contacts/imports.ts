import { randomUUID } from 'node:crypto'
import type { EntityManager } from '@mikro-orm/postgresql'
import { plainLines, plainText, wellFormed } from '~~/core/calls/text'
import { fold } from '~~/core/directory/folding'
import { beyond, longest, mostAddresses, mostNumbers } from '~~/core/formats/contact-fields'
import { type CardContact, contactOf as contactOfCard } from '~~/core/formats/vcard'
import { type Home, readDialled } from '~~/core/numbers/dialled'
import type { ContactImport, ImportRow, ImportUndone, ImportVerdicts, Verdict } from '~~/shared/contact-imports'
import type { NewContact } from '~~/shared/contacts'
import { spoken } from '~~/words/phrase'
import { homeIn } from '../company/home'
import { t } from '../language'
import { changing, insert, kept, type Origin, selecting, takeAway, update } from './contacts'

/**
 * Contacts from files, some rows at a time, each part in one transaction: whatever dies in the middle, a part is carried out whole or not at all, once, and is
 * kept with what was there before, so that all of it can be undone.
 */

/** One that is there, with where it came from; `book`: the address book in which it is changed. */
interface Known extends NewContact, Origin { id: string, version: number, book: string | null }

interface Judged {
  verdict: Verdict
  why: string
  /** What is to be there afterwards, its company by name; null when nothing changes. */
  next: (Omit<NewContact, 'company'> & Origin & { firm: string | null }) | null
  into: Known | null
}

/** What would become of rows. */
export async function checkRows(em: EntityManager, by: string, isPrivate: boolean, given: ImportRow[]): Promise<ImportVerdicts> {
  const home = await homeIn(em)
  const rows = given.map(row => plainRow(row, home))
  const there = await Those.whoMayBeMeant(em, by, isPrivate, rows, home)
  const judged = rows.map(row => there.judge(row))
  const firms = judged.flatMap(({ next }) => next?.firm && !there.company(next.firm) ? [next.firm] : [])
  return { rows: judged.map(({ verdict, why }) => ({ verdict, why })), companies: [...new Map(firms.map(name => [fold(name), name])).values()] }
}

export async function beginImport(em: EntityManager, by: string, file: string, isPrivate: boolean): Promise<ContactImport> {
  const id = randomUUID()
  await em.transactional(tx => tx.execute('insert into contact_import (id, "by", file, owner) values (?, ?, ?, ?)', [
    id, by, wellFormed(file), isPrivate ? by : null,
  ]))
  return (await importsFor(em, by)).find(one => one.id === id)!
}

/** @throws 404 for one that is not one's own, 409 for one that has been undone */
export async function carryOut(em: EntityManager, by: string, id: string, from: number, given: ImportRow[]): Promise<ImportVerdicts> {
  const home = await homeIn(em)
  const rows = given.map(row => plainRow(row, home))
  // As all changes, one after the other: no two parts look at the same contacts at once.
  return changing(em, async (tx, change) => {
    const isPrivate = await openImport(tx, by, id)
    const part = { id, isPrivate, change }
    const done = await tx.execute<{ position: number, verdict: Verdict, why: string }[]>(
      `select position, verdict, why from contact_import_row where import = ? and position >= ? and position < ? and verdict <> 'company'`,
      [id, from, from + rows.length],
    )
    const before = new Map(done.map(row => [row.position, row]))
    const there = await Those.whoMayBeMeant(tx, by, isPrivate, rows, home)
    const answer: ImportVerdicts = { rows: [], companies: [] }
    for (const [index, row] of rows.entries()) {
      const position = from + index
      const known = before.get(position)
      if (!known && await writeRow(tx, by, part, position, row, there)) answer.companies.push(row.company!)
      const written = known ?? there.latest
      answer.rows.push({ verdict: written.verdict, why: written.why })
    }
    return answer
  })
}

/** What an import has done last is as it was before, but for what somebody has changed since; the rest with the next question. */
export async function undoImport(em: EntityManager, by: string, mayUndoOthers: boolean, id: string): Promise<ImportUndone> {
  return changing(em, async (tx, change) => {
    const [found] = await tx.execute<{ by: string, owner: string | null, undone_at: string | null }[]>(
      'select "by", owner, undone_at from contact_import where id = ? for update', [id],
    )
    if (!found || (found.by !== by && (found.owner !== null || !mayUndoOthers)))
      throw createError({ statusCode: 404, message: t('answers.noSuchImport') })
    await tx.execute('update contact_import set undone_at = coalesce(undone_at, now()) where id = ?', [id])
    const rows = await tx.execute<ToUndo[]>(
      `select r.position, r.verdict, r.contact, r.before, r.version, c.version as now, c.kind, c.name, c.removed
      from contact_import_row r join contact c on c.id = r.contact
      where r.import = ? order by r.position desc, r.verdict = 'company' limit ${undoneAtOnce}`,
      [id],
    )
    if (rows.length === 0 && found.undone_at) throw createError({ statusCode: 409, message: t('answers.undoneAlready') })
    const answer: ImportUndone = { undone: 0, left: [], more: rows.length === undoneAtOnce }
    /** Of those that the file names more than once: the version to which they are undone so far. */
    const reached = new Map<string, number>()
    for (const { position, verdict, contact, before, version, now, kind, name, removed } of rows) {
      await tx.execute('update contact_import_row set contact = null where import = ? and position = ? and verdict = ?', [id, position, verdict])
      if (removed) continue
      if ((reached.get(contact) ?? now) !== version || (before === null && kind === 'company' && await hasPeople(tx, contact))) {
        answer.left.push(name)
        continue
      }
      if (before === null) await takeAway(tx, by, contact, change)
      else {
        await update(tx, found.owner ?? by, contact, change, before)
        await originate(tx, contact, before)
        // It is as an earlier import has left it: that can be undone as well.
        await tx.execute(
          'update contact_import_row set version = (select version from contact where id = ?) where contact = ? and version = ?',
          [contact, contact, before.version],
        )
      }
      reached.set(contact, before?.version ?? 0)
      answer.undone++
    }
    answer.left = [...new Set(answer.left)]
    return answer
  })
}

/** Rows that are undone in one transaction. */
const undoneAtOnce = 200

interface ToUndo {
  position: number
  verdict: string
  contact: string
  before: Known | null
  version: number
  now: number
  kind: string
  name: string
  removed: boolean
}

async function hasPeople(tx: EntityManager, company: string): Promise<boolean> {
  return (await tx.execute<object[]>('select 1 from contact where company = ? and not removed limit 1', [company])).length > 0
}

async function originate(tx: EntityManager, contact: string, { uid, card }: Origin): Promise<void> {
  await tx.execute('update contact set uid = ?, card = ?::jsonb where id = ?', [uid, JSON.stringify(card), contact])
}

/** The latest: one's own, and those of shared contacts. */
export async function importsFor(em: EntityManager, who: string): Promise<ContactImport[]> {
  return em.execute<ContactImport[]>(
    `select i.id, i.file, coalesce(a.name, i."by") as "by", (extract(epoch from i.at) * 1000)::float8 as at, i.owner is not null as "private",
      (select count(*)::int from contact_import_row r where r.import = i.id and r.verdict in ('new', 'company')) as added,
      (select count(*)::int from contact_import_row r where r.import = i.id and r.verdict = 'changed') as changed,
      i.undone_at is not null and not exists (select 1 from contact_import_row r where r.import = i.id and r.contact is not null) as undone
    from contact_import i left join account a on a.sign_in = i."by" where i.owner is null or i.owner = ? order by i.at desc, i.id limit 20`,
    [who],
  )
}

async function openImport(tx: EntityManager, by: string, id: string): Promise<boolean> {
  const [found] = await tx.execute<{ owner: string | null, undone: boolean }[]>(
    'select owner, undone_at is not null as undone from contact_import where id = ? and "by" = ? for update', [id, by],
  )
  if (!found) throw createError({ statusCode: 404, message: t('answers.noSuchImportUnchanged') })
  if (found.undone) throw createError({ statusCode: 409, message: t('answers.importWasUndone') })
  return found.owner !== null
}

/** @returns true when a company was written down with it */
async function writeRow(
  tx: EntityManager, by: string, part: { id: string, isPrivate: boolean, change: number }, position: number, row: ImportRow, there: Those,
): Promise<boolean> {
  const { id, isPrivate } = part
  const note = (verdict: Verdict | 'company', why: string, contact: string | null, before: Known | null, version: number | null) => tx.execute(
    'insert into contact_import_row (import, position, verdict, why, contact, before, version) values (?, ?, ?, ?, ?, ?::jsonb, ?)',
    [id, position, verdict, why, contact, before && JSON.stringify(before), version],
  )
  const { verdict, why, next, into } = there.judge(row)
  if (!next) {
    await note(verdict, why, null, null, null)
    return false
  }
  let company = next.firm === null ? null : there.company(next.firm) ?? null
  const isNew = next.firm !== null && company === null
  if (isNew) {
    const firm = { ...plain, kind: 'company' as const, name: next.firm!, category: next.category, private: isPrivate }
    company = randomUUID()
    await insert(tx, by, company, part.change++, await kept(tx, by, company, firm))
    await note('company', '', company, null, 1)
    there.add({ ...firm, id: company, version: 1, uid: null, card: [], book: null })
  }
  const { firm: _firm, uid, card, ...fields } = next
  const contact = into?.id ?? randomUUID()
  const written = await kept(tx, by, contact, { ...fields, company })
  if (into) {
    await update(tx, by, contact, part.change++, written)
    await originate(tx, contact, { uid, card })
  }
  else await insert(tx, by, contact, part.change++, written, { uid, card })
  const version = (into?.version ?? 0) + 1
  await note(verdict, why, contact, into, version)
  there.add({ ...written, id: contact, version, uid, card, book: null })
  return isNew
}

/** A row as it can be kept; its numbers are E.164 where they can be called at all. */
function plainRow(given: ImportRow, home: Home): ImportRow {
  const row = wellFormed(given)
  const numbers = row.numbers.map(({ number, kind }) => {
    const dialled = readDialled(number, home)
    return { number: dialled.kind === 'outside' ? dialled.e164 : number, kind }
  })
  return {
    ...row, numbers: [...new Map(numbers.map(one => [one.number, one])).values()], name: plainText(row.name, longest.name),
    company: plainText(row.company ?? '', longest.name) || null, category: plainText(row.category, longest.category),
    language: plainText(row.language, longest.language), note: plainLines(row.note, longest.note), uid: plainText(row.uid ?? '', longest.uid) || null,
  }
}

const plain = {
  company: null, numbers: [], addresses: [], category: '', language: '', note: '', readFirst: false, mark: 'none' as const, private: false,
}

/** What a contact that came from nowhere else is known by, in what is given out. */
export const ownUid = (id: string): string => `urn:uuid:${id}`

/** Contacts by what a row of a file names. */
class Found {
  private readonly byUid = new Map<string, Known>()
  private readonly byNumber = new Map<string, Known[]>()
  private readonly byName = new Map<string, Known[]>()

  add(one: Known): void {
    this.byUid.set(one.uid ?? ownUid(one.id), one)
    const put = (all: Map<string, Known[]>, key: string) => all.set(key, [...(all.get(key) ?? []).filter(({ id }) => id !== one.id), one])
    for (const { number } of one.numbers) put(this.byNumber, number)
    put(this.byName, fold(one.name))
  }

  /** By what it is known elsewhere. */
  named({ uid }: ImportRow): Known | undefined {
    return uid === null ? undefined : this.byUid.get(uid)
  }

  /** By a number together with the name; one without numbers by its name. */
  alike({ uid, name, numbers }: ImportRow): Known | undefined {
    const named = fold(name)
    const free = (one: Known) => fold(one.name) === named && (one.uid === null || uid === null)
    const byNumber = numbers.flatMap(({ number }) => this.byNumber.get(number) ?? []).find(free)
    if (byNumber) return byNumber
    return numbers.length > 0 ? undefined : (this.byName.get(named) ?? []).find(one => free(one) && one.numbers.length === 0)
  }
}

/**
 * Contacts whom rows of a file may mean: among the shared ones or among one's own, whichever they are to become, and those that are there already and can't be
 * changed so: in an address book, or among the others.
 */
class Those {
  private readonly here = new Found()
  private readonly books = new Found()
  private readonly others = new Found()
  private readonly companies = new Map<string, string>()
  private readonly firmNames = new Map<string, string>()
  latest: Pick<Judged, 'verdict' | 'why'> = { verdict: 'unchanged', why: '' }

  private constructor(private readonly isPrivate: boolean, private readonly home: Home) {}

  static async whoMayBeMeant(em: EntityManager, by: string, isPrivate: boolean, rows: readonly ImportRow[], home: Home): Promise<Those> {
    const those = new Those(isPrivate, home)
    const texts = (all: (string | null)[]) => JSON.stringify([...new Set(all.filter(one => one !== null))])
    const found = await em.execute<(Omit<Known, 'readFirst' | 'private'> & { read_first: boolean, owner: string | null })[]>(
      `${selecting(', c.uid, c.card')} where not c.removed and (c.owner is null or c.owner = ?) and (
        coalesce(c.uid, 'urn:uuid:' || c.id) in (select jsonb_array_elements_text(?::jsonb))
        or lower(c.name) in (select lower(jsonb_array_elements_text(?::jsonb)))
        or c.id in (select n.contact from contact_number n where n.number in (select jsonb_array_elements_text(?::jsonb))))`,
      [
        by, texts(rows.map(({ uid }) => uid)), texts(rows.map(({ name }) => name)),
        texts(rows.flatMap(({ numbers }) => numbers.map(one => one.number))),
      ],
    )
    const firms = await em.execute<{ id: string, name: string, owner: string | null }[]>(
      'select id, name, owner from contact where kind = \'company\' and not removed and (owner is null or owner = ?) order by owner nulls last, change desc',
      [isPrivate ? by : null],
    )
    for (const { id, name } of firms) {
      those.companies.set(fold(name), id)
      those.firmNames.set(id, name)
    }
    for (const { read_first: readFirst, owner, ...row } of found) those.add({ ...row, numbers: row.numbers ?? [], readFirst, private: owner !== null })
    return those
  }

  add(one: Known): void {
    const found = one.book !== null ? this.books : one.private === this.isPrivate ? this.here : this.others
    found.add(one)
    if (one.kind !== 'company') return
    this.companies.set(fold(one.name), one.id)
    this.firmNames.set(one.id, one.name)
  }

  company(name: string): string | undefined {
    return this.companies.get(fold(name))
  }

  judge(row: ImportRow): Judged {
    const judged = this.judged(row)
    this.latest = { verdict: judged.verdict, why: judged.why }
    return judged
  }

  private judged(row: ImportRow): Judged {
    const { card, company: firm, ...said } = row
    const refused = (why: string): Judged => ({ verdict: 'refused', why, next: null, into: null })
    if (said.name === '') return refused(t('files.nobodyIsNamed'))
    const unread = said.numbers.find(({ number }) => readDialled(number, this.home).kind !== 'outside')
    if (unread) return refused(t('answers.noNumber', { number: plainText(unread.number, 40) }))
    const elsewhere = this.elsewhere(row)
    if (elsewhere) return { verdict: 'unchanged', why: elsewhere, next: null, into: null }
    const into = this.here.named(row) ?? this.here.alike(row) ?? null
    if (!into) return { verdict: 'new', why: '', into, next: { ...plain, ...said, private: this.isPrivate, card, firm: said.kind === 'person' ? firm : null } }
    const was = into.card.length > 0 ? contactOfCard(into.card, this.home) : null
    const whole = merged(into, this.firmNames.get(into.company ?? '') ?? null, row, was)
    const next = { ...whole, numbers: whole.numbers.slice(0, mostNumbers), addresses: whole.addresses.slice(0, mostAddresses) }
    const left = beyond({ numbers: whole.numbers.length, addresses: whole.addresses.length, name: 0, note: 0 })
    const changes = [...this.changesOf(into, next), ...left.map(one => t('files.leftOut', { what: spoken(t, one) }))]
    if (changes.length === 0 && JSON.stringify(card) === JSON.stringify(into.card)) return { verdict: 'unchanged', why: '', next: null, into }
    // A card that says something else, of which nothing is shown, is kept all the same.
    return { verdict: changes.length === 0 ? 'unchanged' : 'changed', why: changes.join(', '), next, into }
  }

  /** Where somebody is who is there already, and not changed by a file. */
  private elsewhere(row: ImportRow): string | null {
    if (this.here.named(row)) return null
    const inBook = this.books.named(row) ?? (this.here.alike(row) ? undefined : this.books.alike(row))
    if (inBook) return t('answers.isInABook', { book: inBook.book ?? '' })
    if (!this.others.named(row)) return null
    return t(this.isPrivate ? 'answers.isShared' : 'answers.isYourOwn')
  }

  private changesOf(into: Known, next: NonNullable<Judged['next']>): string[] {
    const differs = (one: unknown, other: unknown) => JSON.stringify(one) !== JSON.stringify(other)
    const firm = this.firmNames.get(into.company ?? '') ?? null
    return [
      ...into.name !== next.name ? [t('answers.name')] : [], ...into.kind !== next.kind ? [t('answers.kind')] : [],
      ...fold(firm ?? '') !== fold(next.firm ?? '') ? [t('answers.company')] : [], ...differs(into.numbers, next.numbers) ? [t('answers.numbers')] : [],
      ...differs(into.addresses, next.addresses) ? [t('answers.addresses')] : [], ...into.category !== next.category ? [t('answers.category')] : [],
      ...into.language !== next.language ? [t('answers.language')] : [], ...into.note !== next.note ? [t('answers.note')] : [],
    ]
  }
}

/**
 * What a contact is after a file has said something of it: what the file has not changed since the last time stays as it is here.
 * @param was what its card said the last time, if it came with one
 */
function merged(into: Known, firm: string | null, row: ImportRow, was: CardContact | null): NonNullable<Judged['next']> {
  const text = (here: string, said: string, before: string | undefined) => said === '' || said === before ? here : said
  const union = <T>(here: readonly T[], said: readonly T[], before: readonly T[], key: (one: T) => string): T[] => {
    const now = new Map(said.map(one => [key(one), one]))
    const gone = new Set(before.map(key).filter(one => !now.has(one)))
    const stays = here.filter(one => !gone.has(key(one))).map((one) => {
      const same = before.find(other => key(other) === key(one))
      const other = now.get(key(one))
      return other && JSON.stringify(other) !== JSON.stringify(same) ? other : one
    })
    return [...stays, ...said.filter(one => !stays.some(other => key(other) === key(one)) && !before.some(other => key(other) === key(one)))]
  }
  const saidFirm = row.kind === 'person' ? row.company : null
  const sameKind = was !== null && was.kind === row.kind
  const kind = sameKind ? into.kind : row.kind
  const { id: _id, version: _version, company: _company, book: _book, ...here } = into
  return {
    ...here, kind,
    name: text(into.name, row.name, was?.name),
    firm: kind !== 'person' ? null : saidFirm === null || (was !== null && saidFirm === was.company) ? firm : saidFirm,
    category: text(into.category, row.category, was?.category),
    language: text(into.language, row.language, was?.language),
    note: text(into.note, row.note, was?.note),
    numbers: union(into.numbers, row.numbers, was?.numbers ?? [], ({ number }) => number),
    addresses: union(into.addresses, row.addresses, was?.addresses ?? [], one => one.toLowerCase()),
    uid: row.uid ?? into.uid,
    card: row.card.length > 0 ? row.card : into.card,
  }
}
