import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import { plainText, wellFormed } from '~~/core/calls/text'
import { fold } from '~~/core/directory/folding'
import type { CardContact } from '~~/core/formats/vcard'
import type { AddressBook, NewAddressBook } from '~~/shared/address-books'
import { type Spoken, spoken } from '~~/words/phrase'
import { homeIn } from '../company/home'
import { changing, insert, takeAway, update } from '../contacts/contacts'
import { fromDatabase } from '../database/away'
import { t } from '../language'
import { Unfetched } from '../outside/ask'
import { Seal } from '../outside/seal'
import { wrongInput } from '../validation/read'
import type { BookReader, ReadCard } from './book-reader'

/** PostgreSQL's intervals: how often a book is asked, again after it failed, and how long one server alone reads it. */
const pauses = { well: '15 minutes', failed: '15 minutes', claimed: '5 minutes' }
const lookEvery = 30_000
/** Milliseconds for which whoever asks for a reading waits for it. */
const worthWaitingFor = 5_000
const mostBooks = 50
/** Of so many cards that are more than is kept it is told what is not. */
const mostNamed = 20

interface Row { id: string, name: string, address: string, user_name: string, secret: string, token: string | null }

/** Address books of other servers: their cards are shared contacts that nobody changes here. Several servers on one database share the work. */
export class AddressBooks {
  private readonly looking: NodeJS.Timeout
  private readonly seal: Seal
  private busy: Promise<void> | null = null

  /** @param sealedWith what seals the passwords */
  constructor(private readonly orm: MikroORM, private readonly reader: BookReader, sealedWith: string) {
    this.seal = new Seal(sealedWith, 'address books')
    this.looking = setInterval(() => void this.refresh(), lookEvery)
  }

  close(): void {
    clearInterval(this.looking)
    this.reader.close()
  }

  async all(): Promise<AddressBook[]> {
    const books = await this.orm.em.fork().execute<(Omit<AddressBook, 'cutCards'> & { cutCards: { name: string, cut: Spoken[] }[] })[]>(
      `select b.id, b.name, b.address, b.user_name as "user", b.unread, b.failure, (extract(epoch from b.read_at) * 1000)::float8 as "readAt",
        (select count(*)::int from contact c where c.book = b.id and not c.removed) as contacts,
        (select count(*)::int from book_card k where k.book = b.id and k.cut <> '[]') as cut,
        array(select jsonb_build_object('name', c.name, 'cut', k.cut) from book_card k join contact c on c.id = k.contact
          where k.book = b.id and k.cut <> '[]' order by c.name, c.id limit ${mostNamed}) as "cutCards"
        from address_book b order by lower(b.name), b.id`,
    )
    return books.map(book => ({ ...book, cutCards: book.cutCards.map(({ name, cut }) => `${name}: ${cut.map(one => spoken(t, one)).join(', ')}`) }))
  }

  /**
   * Subscribes to a book, once it has been read.
   * @throws 409, 422
   */
  async add(given: NewAddressBook): Promise<AddressBook> {
    const name = plainText(given.name, 60)
    if (name === '') throw wrongInput('name', t('answers.nameIsMissing'))
    if (!URL.canParse(given.address)) throw wrongInput('address', t('answers.noWebAddress'))
    const address = await this.reader.find({ address: given.address, user: given.user, password: given.password }).catch((error: unknown) => {
      throw error instanceof Unfetched ? wrongInput('address', error.message) : error
    })
    const id = randomUUID()
    await fromDatabase(() => this.orm.em.fork().transactional(async (tx) => {
      await tx.execute('lock table address_book in share row exclusive mode')
      const there = await tx.execute<{ name: string, address: string }[]>('select name, address from address_book')
      if (there.some(one => fold(one.name) === fold(name))) throw createError({ statusCode: 409, message: t('answers.bookOfThatName') })
      if (there.some(one => one.address === address)) throw createError({ statusCode: 409, message: t('answers.bookIsReadAlready') })
      if (there.length >= mostBooks) throw createError({ statusCode: 409, message: t('answers.tooManyBooks', { most: mostBooks }) })
      await tx.execute(
        'insert into address_book (id, name, address, user_name, secret, next_at) values (?, ?, ?, ?, ?, now())',
        [id, name, address, wellFormed(given.user), this.seal.close(given.password)],
      )
    }))
    return this.readNow(id)
  }

  /** @throws 404 */
  async remove(id: string): Promise<void> {
    await changing(this.orm.em.fork(), async (tx, change) => {
      const [book] = await tx.execute<{ name: string }[]>('select name from address_book where id = ? for update', [id])
      if (!book) throw noBook()
      const those = await tx.execute<{ id: string }[]>('select id from contact where book = ? and not removed', [id])
      for (const contact of those) await this.takeAwayFrom(tx, { book: id, by: book.name, change }, contact.id)
      await tx.execute('update contact set book = null where book = ?', [id])
      await tx.execute('delete from address_book where id = ?', [id])
    })
  }

  /**
   * Reads a book at once. The answer is how far that has come after a few seconds: a large one goes on being read.
   * @throws 404
   */
  async readNow(id: string): Promise<AddressBook> {
    const [row] = await fromDatabase(() => this.orm.em.fork().execute<Row[]>(
      `update address_book set next_at = now() + interval '${pauses.claimed}' where id = ? returning ${columns}`, [id],
    ))
    if (!row) throw noBook()
    const reading = this.renew(row).catch(() => {
      // The database is away: the book is still due.
    })
    await Promise.race([reading, pause(worthWaitingFor, undefined, { ref: false })])
    const book = (await fromDatabase(() => this.all())).find(one => one.id === id)
    if (!book) throw noBook()
    return book
  }

  /** Looks at every book that is due, one after the other. */
  refresh(): Promise<void> {
    return this.busy ??= this.renewAll().catch(() => {
      // The database is away: whatever was due still is.
    }).finally(() => {
      this.busy = null
    })
  }

  private async renewAll(): Promise<void> {
    for (let row = await this.claim(); row; row = await this.claim()) await this.renew(row)
  }

  /** One that is due, for this server alone. */
  private async claim(): Promise<Row | undefined> {
    const [row] = await this.orm.em.fork().execute<Row[]>(
      `update address_book set next_at = now() + interval '${pauses.claimed}' where id =
        (select id from address_book where next_at <= now() order by next_at limit 1 for update skip locked) returning ${columns}`,
    )
    return row
  }

  private async renew({ id, name, address, user_name: user, secret, token }: Row): Promise<void> {
    const failed = (why: string) => this.orm.em.fork().execute(
      `update address_book set failure = ?, next_at = now() + interval '${pauses.failed}' where id = ?`, [why.slice(0, 300), id],
    )
    const password = this.seal.open(secret)
    if (password === null) return void await failed('The password can\'t be read any more: the server\'s own secret has changed. Add the book anew.')
    const source = { address, user, password }
    try {
      const kept = await this.orm.em.fork().execute<{ href: string, etag: string }[]>(
        'select href, etag from book_card where book = ?', [id],
      )
      const home = await homeIn(this.orm.em.fork())
      const next = await this.reader.read(source, { token, known: kept.map(({ href, etag }) => [href, etag]), home }, {
        changed: cards => this.take(id, name, cards),
        gone: hrefs => this.forget(id, name, hrefs),
      })
      await this.orm.em.fork().execute(
        `update address_book set token = ?, failure = null, read_at = now(), next_at = now() + interval '${pauses.well}',
          unread = (select count(*) from book_card where book = ? and contact is null) where id = ?`,
        [next, id, id],
      )
    }
    catch (error) {
      await failed(error instanceof Unfetched ? error.message : t('answers.cantBeKeptHere'))
      if (!(error instanceof Unfetched)) throw error
    }
  }

  /** Keeps cards as contacts, all of a part or none. */
  private async take(book: string, by: string, cards: readonly ReadCard[]): Promise<void> {
    await changing(this.orm.em.fork(), async (tx, change) => {
      const [there] = await tx.execute<object[]>('select 1 from address_book where id = ? for share', [book])
      // Nobody wants it any more since it was asked.
      if (!there) return
      for (const { href, etag, said, lines, cut } of cards) {
        const [before] = await tx.execute<{ contact: string | null }[]>('select contact from book_card where book = ? and href = ?', [book, href])
        const contact = said.name === '' ? null : await this.keep(tx, { book, by, change }, before?.contact ?? null, said, lines)
        if (contact === null && before?.contact) await this.takeAwayFrom(tx, { book, by, change }, before.contact)
        await tx.execute(
          `insert into book_card (book, href, etag, contact, cut) values (?, ?, ?, ?, ?::jsonb)
            on conflict (book, href) do update set etag = excluded.etag, contact = excluded.contact, cut = excluded.cut`,
          [book, href, etag, contact, JSON.stringify(cut)],
        )
      }
      await this.leaveEmpty(tx, book, by, change)
    })
  }

  /** @returns the id of the contact that the card is now */
  private async keep(tx: EntityManager, at: { book: string, by: string, change: number }, id: string | null, said: CardContact, card: readonly string[]) {
    const { book, by, change } = at
    const { uid, kind, name, numbers, addresses, language, note } = said
    const company = said.kind === 'person' && said.company !== null ? await this.companyOf(tx, at, said.company) : null
    const category = said.category || by
    const contact = { kind, name, company, numbers, addresses, category, language, note, private: false, readFirst: false, mark: 'none' as const }
    const known = id ?? (kind === 'company' ? await this.empty(tx, book, name) : null)
    if (known !== null) {
      await update(tx, by, known, change, contact)
      await tx.execute('update contact set uid = ?, card = ?::jsonb where id = ?', [uid, JSON.stringify(card), known])
      return known
    }
    const added = randomUUID()
    await insert(tx, by, added, change, contact, { uid, card })
    await tx.execute('update contact set book = ? where id = ?', [book, added])
    return added
  }

  /** A company is that of this book, or any that all know; one that nobody knows yet comes with the first person of it. */
  private async companyOf(tx: EntityManager, { book, by, change }: { book: string, by: string, change: number }, name: string): Promise<string> {
    const [known] = await tx.execute<{ id: string }[]>(
      `select id from contact where kind = 'company' and lower(name) = lower(?) and not removed and owner is null
        order by book is not distinct from ? desc, id limit 1`,
      [name, book],
    )
    if (known) return known.id
    const id = randomUUID()
    const contact = { kind: 'company' as const, name, company: null, numbers: [], addresses: [], category: by, language: '', note: '', private: false }
    await insert(tx, by, id, change, { ...contact, readFirst: false, mark: 'none' })
    await tx.execute('update contact set book = ? where id = ?', [book, id])
    return id
  }

  /** A company of the book that only its people have named until now. */
  private async empty(tx: EntityManager, book: string, name: string): Promise<string | null> {
    const [found] = await tx.execute<{ id: string }[]>(
      `select c.id from contact c where c.book = ? and c.kind = 'company' and lower(c.name) = lower(?) and not c.removed
        and not exists (select 1 from book_card k where k.contact = c.id) limit 1`, [book, name],
    )
    return found?.id ?? null
  }

  /** What a book no longer has goes; a company to which people of our own belong becomes one of our own. */
  private async takeAwayFrom(tx: EntityManager, { book, by, change }: { book: string, by: string, change: number }, contact: string): Promise<void> {
    const [ours] = await tx.execute<object[]>('select 1 from contact where company = ? and not removed and book is distinct from ? limit 1', [contact, book])
    if (!ours) return takeAway(tx, by, contact, change)
    await tx.execute(
      'update contact set book = null, uid = null, card = \'[]\', change = ?, version = version + 1, changed_by = ?, changed_at = now() where id = ?',
      [change, by, contact],
    )
  }

  private async forget(book: string, by: string, hrefs: readonly string[]): Promise<void> {
    if (hrefs.length === 0) return
    await changing(this.orm.em.fork(), async (tx, change) => {
      const gone = await tx.execute<{ contact: string | null }[]>(
        'delete from book_card where book = ? and href in (select jsonb_array_elements_text(?::jsonb)) returning contact', [book, JSON.stringify(hrefs)],
      )
      for (const { contact } of gone) if (contact !== null) await this.takeAwayFrom(tx, { book, by, change }, contact)
      await this.leaveEmpty(tx, book, by, change)
    })
  }

  /** A company that came with its people goes with the last of them. */
  private async leaveEmpty(tx: EntityManager, book: string, by: string, change: number): Promise<void> {
    const empty = await tx.execute<{ id: string }[]>(
      `select c.id from contact c where c.book = ? and not c.removed and not exists (select 1 from book_card k where k.contact = c.id)
        and not exists (select 1 from contact p where p.company = c.id and not p.removed)`, [book],
    )
    for (const { id } of empty) await takeAway(tx, by, id, change)
  }
}

const columns = 'id, name, address, user_name, secret, token'

function noBook() {
  return createError({ statusCode: 404, message: t('answers.bookIsGone') })
}
