import { randomUUID } from 'node:crypto'
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import { thingOf } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { ownedBy } from '~~/core/company/house-directory'
import { guessedPeople, type Meaning, peopleOf, type PeopleRow } from '~~/core/company/people-table'
import type { HouseDirectoryLook, HouseDirectoryState, HouseDirectoryWanted } from '~~/shared/house-directory'
import { spoken } from '~~/words/phrase'
import { companyEdits, editIn } from '../company/edits'
import { companyIn, readCompany } from '../company/rows'
import { fromDatabase, muchAtOnce } from '../database/away'
import { t } from '../language'
import { Seal } from '../outside/seal'
import { inTurn } from '../database/turns'
import { wrongInput } from '../validation/read'
import { type DirectoryEntry, type DirectorySource, DirectoryUnread, readEntries } from './ldap'
import { itself } from './owners'

/** PostgreSQL's intervals: how often it is asked, and how long one server alone reads it. */
const pauses = { next: '15 minutes', claimed: '5 minutes' }
const lookEvery = 30_000
const shownRefused = 200
const longestSample = 60

interface Row {
  address: string
  startTls: boolean
  user: string
  secret: string
  base: string
  filter: string
  columns: { attribute: string, meaning: Meaning }[]
  numbered: boolean
  refused: HouseDirectoryState['refused']
  failure: string | null
  readAt: number | null
}
interface Known { key: string, person: string }
interface Options {
  /** Seals the password. */
  sealedWith: string
  /** Addresses that may be asked. */
  allowed: readonly string[]
}

/** People from the house's own directory, kept in step with it. Nobody is ever taken away by it: who leaves there is shown. Several servers share the work. */
export class HouseDirectory {
  private readonly looking: NodeJS.Timeout
  private readonly seal: Seal
  private busy: Promise<void> | null = null

  constructor(private readonly orm: MikroORM, private readonly options: Options) {
    this.seal = new Seal(options.sealedWith, 'house directory')
    this.looking = setInterval(() => void this.refresh(), lookEvery)
  }

  close(): void {
    clearInterval(this.looking)
  }

  async state(): Promise<HouseDirectoryState> {
    const em = this.orm.em.fork()
    const [row, people] = await Promise.all([this.row(em), em.execute<HouseDirectoryState['people']>(
      'select person, owns, (extract(epoch from gone_at) * 1000)::float8 as gone from house_directory_entry order by person',
    )])
    if (!row) return { settings: null, readAt: null, failure: null, refused: [], people }
    const { address, startTls, user, base, filter, columns, numbered, refused, failure, readAt } = row
    return { settings: { address, startTls, user, base, filter, columns, numbered }, readAt, failure, refused, people }
  }

  /**
   * What would become of everybody there; nothing is changed.
   * @throws 422
   */
  async look(wanted: HouseDirectoryWanted): Promise<HouseDirectoryLook> {
    const source = await this.sourceOf(wanted)
    const entries = await readEntries(source, null, this.options.allowed).catch(asWrongInput)
    const company = await fromDatabase(() => readCompany(this.orm.em.fork()))
    const columns = columnsOf(entries, wanted.columns, company)
    const known = await fromDatabase(() => this.known(this.orm.em.fork()))
    const rows = planned(company, entries, columns, known, wanted.numbered)
    if ('fault' in rows) throw wrongInput('columns', spoken(t, rows.fault))
    return { columns, rows: rows.map(shown) }
  }

  /**
   * Keeps people in step with a directory from now on, once it has been read.
   * @throws 422
   */
  async keep(wanted: HouseDirectoryWanted): Promise<HouseDirectoryState> {
    const source = await this.sourceOf(wanted)
    const columns = wanted.columns.filter(({ meaning }) => meaning !== 'nothing')
    const entries = await readEntries(source, columns.map(({ attribute }) => attribute), this.options.allowed).catch(asWrongInput)
    const company = await fromDatabase(() => readCompany(this.orm.em.fork()))
    const rows = planned(company, entries, columns, new Map(), wanted.numbered)
    if ('fault' in rows) throw wrongInput('columns', spoken(t, rows.fault))
    await fromDatabase(() => this.orm.em.fork().execute(
      `insert into house_directory (id, address, start_tls, user_name, secret, base, filter, columns, numbered, next_at)
        values (1, ?, ?, ?, ?, ?, ?, ?::jsonb, ?, now() + interval '${pauses.claimed}')
        on conflict (id) do update set address = excluded.address, start_tls = excluded.start_tls, user_name = excluded.user_name, secret = excluded.secret,
          base = excluded.base, filter = excluded.filter, columns = excluded.columns, numbered = excluded.numbered, next_at = excluded.next_at`,
      [source.address, source.startTls, source.user, this.seal.close(source.password), source.base, source.filter, JSON.stringify(columns), wanted.numbered],
    ))
    await this.readNow()
    return fromDatabase(() => this.state())
  }

  /** It is read no more. Whoever came from it stays, and is changed here from now on. */
  async leave(): Promise<void> {
    await this.orm.em.fork().transactional(async (tx) => {
      await tx.execute('delete from house_directory')
      await tx.execute('delete from house_directory_entry')
    })
  }

  /** Reads it at once. */
  async readNow(): Promise<void> {
    const [due] = await fromDatabase(() => this.orm.em.fork().execute<object[]>(
      `update house_directory set next_at = now() + interval '${pauses.claimed}' returning 1`,
    ))
    if (due) await fromDatabase(() => this.renew(), muchAtOnce)
  }

  /** Reads it when it is due. */
  refresh(): Promise<void> {
    return this.busy ??= this.renewWhenDue().catch(() => {
      // The database is away: it is still due.
    }).finally(() => {
      this.busy = null
    })
  }

  private async renewWhenDue(): Promise<void> {
    const [due] = await this.orm.em.fork().execute<object[]>(
      `update house_directory set next_at = now() + interval '${pauses.claimed}'
        where id in (select id from house_directory where next_at <= now() for update skip locked) returning 1`,
    )
    if (due) await this.renew()
  }

  private async renew(): Promise<void> {
    const row = await this.row(this.orm.em.fork())
    if (!row) return
    try {
      const password = this.seal.open(row.secret)
      if (password === null) throw new DirectoryUnread(t('answers.directoryPasswordUnreadable'))
      const entries = await readEntries({ ...row, password }, row.columns.map(({ attribute }) => attribute), this.options.allowed)
      // Nobody is taken for gone because something is wrong with what is asked.
      if (entries.length === 0) throw new DirectoryUnread(t('answers.directoryShowsNobody'))
      const refused = await inTurn(this.orm.em.fork(), companyEdits, tx => this.take(tx, row, entries))
      await this.orm.em.fork().execute(
        `update house_directory set failure = null, read_at = now(), refused = ?::jsonb, next_at = now() + interval '${pauses.next}'`,
        [JSON.stringify(refused)],
      )
    }
    catch (error) {
      const why = error instanceof DirectoryUnread || isError(error) ? error.message : t('answers.cantBeKeptHere')
      await this.orm.em.fork().execute(
        `update house_directory set failure = ?, next_at = now() + interval '${pauses.next}'`, [why.slice(0, 300)],
      )
    }
  }

  /**
   * Brings everybody in step, all at once or, where something is wrong with somebody, one by one.
   * @returns who could not be taken
   */
  private async take(tx: EntityManager, { columns, numbered }: Row, entries: readonly DirectoryEntry[]): Promise<HouseDirectoryState['refused']> {
    const [still] = await tx.execute<object[]>('select 1 from house_directory for update')
    // Nobody wants it any more since it was asked.
    if (!still) return []
    const known = await this.known(tx)
    const company = await companyIn(tx)
    const rows = planned(company, entries, columns, known, numbered)
    if ('fault' in rows) throw new DirectoryUnread(spoken(t, rows.fault))
    const edit = (of: Company, all: readonly PeopleRow[]) => {
      const changes = all.flatMap(({ changes }) => changes)
      return editIn(tx, itself, changes.map(change => thingOf(of, change)), changes)
    }
    const judged = await edit(company, rows).then(() => rows, async (error: unknown) => {
      if (!isWrong(error)) throw error
      const all: PeopleRow[] = []
      for (const [index, entry] of entries.entries()) {
        tx.clear()
        const now = await companyIn(tx)
        const one = planned(now, [entry], columns, known, numbered)
        const [row] = 'fault' in one ? [] : one
        if (!row) continue
        all.push(await edit(now, [row]).then(() => row, (error: unknown): PeopleRow => {
          if (!isWrong(error)) throw error
          return { ...rows[index]!, verdict: 'refused', why: [error.message] }
        }))
      }
      return all
    })
    await this.remember(tx, columns, entries, judged)
    return judged.filter(({ verdict }) => verdict === 'refused').slice(0, shownRefused).map(shown)
  }

  /** Whom each entry is; whoever has none any more is gone, until it comes back. */
  private async remember(tx: EntityManager, columns: Row['columns'], entries: readonly DirectoryEntry[], rows: readonly PeopleRow[]): Promise<void> {
    const as = columns.map(({ meaning }) => meaning)
    const here = entries.flatMap((entry, index) => {
      const { person, verdict } = rows[index]!
      // Who is refused stays who they were, with all that was theirs.
      return person === null || verdict === 'refused' ? [] : [{ key: entry.key, person, owns: ownedBy(as, cellsOf(columns, entry)) }]
    })
    const given = JSON.stringify(here)
    await tx.execute(
      `delete from house_directory_entry e using jsonb_to_recordset(?::jsonb) as h(key text, person text) where e.key = h.key or e.person = h.person`, [given],
    )
    await tx.execute(
      `insert into house_directory_entry (key, person, owns)
        select key, person, owns from jsonb_to_recordset(?::jsonb) as h(key text, person text, owns jsonb)`,
      [given],
    )
    await tx.execute(
      `update house_directory_entry set gone_at = case when key in (select jsonb_array_elements_text(?::jsonb)) then null else coalesce(gone_at, now()) end`,
      [JSON.stringify(entries.map(({ key }) => key))],
    )
  }

  private async row(em: EntityManager): Promise<Row | undefined> {
    const [row] = await em.execute<Row[]>(
      `select address, start_tls as "startTls", user_name as "user", secret, base, filter, columns, numbered, refused, failure,
        (extract(epoch from read_at) * 1000)::float8 as "readAt" from house_directory`,
    )
    return row
  }

  private async known(em: EntityManager): Promise<Map<string, string>> {
    return new Map((await em.execute<Known[]>('select key, person from house_directory_entry')).map(({ key, person }) => [key, person]))
  }

  /** The password that is kept is told to the server alone that it was given for. */
  private async sourceOf({ address, startTls, user, password, base, filter }: HouseDirectoryWanted): Promise<DirectorySource> {
    const source = { address, startTls, user, base, filter }
    if (password !== '' || user === '') return { ...source, password }
    const kept = await fromDatabase(() => this.row(this.orm.em.fork()))
    const opened = kept && kept.address === address && kept.user === user && kept.startTls === startTls ? this.seal.open(kept.secret) : null
    if (!opened) throw wrongInput('password', t('answers.passwordIsMissing'))
    return { ...source, password: opened }
  }
}

const shown = ({ name, verdict, why }: PeopleRow) => ({ name, verdict, why: why.map(one => spoken(t, one)).join(', ') })
const cellsOf = (columns: Row['columns'], { values }: DirectoryEntry) => columns.map(({ attribute }) => values.get(attribute.toLowerCase()) ?? '')

function asWrongInput(error: unknown): never {
  throw error instanceof DirectoryUnread ? wrongInput(null, error.message) : error
}

/** What an edit is refused for: something in it. */
function isWrong(error: unknown): error is Error & { statusCode: number } {
  return isError(error) && (error.statusCode === 422 || error.statusCode === 409)
}

/** What each attribute holds: as somebody says, else guessed; those of use first. */
function columnsOf(entries: readonly DirectoryEntry[], said: Row['columns'], company: Company): HouseDirectoryLook['columns'] {
  const names = [...new Set([...said.map(({ attribute }) => attribute.toLowerCase()), ...entries.flatMap(({ values }) => [...values.keys()])])]
  const samples = names.map(name => entries.flatMap(({ values }) => values.get(name) ?? []).slice(0, 2).join(', ').slice(0, longestSample))
  const guessed = said.length > 0
    ? names.map(name => said.find(({ attribute }) => attribute.toLowerCase() === name)?.meaning ?? 'nothing')
    : guessedPeople({ columns: names, rows: entries.map(({ values }) => names.map(name => values.get(name) ?? '')) }, company.settings)
  return names.map((attribute, at) => ({ attribute, meaning: guessed[at]!, sample: samples[at]! }))
    .sort((a, b) => Number(a.meaning === 'nothing') - Number(b.meaning === 'nothing') || a.attribute.localeCompare(b.attribute))
}

function planned(
  company: Company, entries: readonly DirectoryEntry[], columns: Row['columns'], known: ReadonlyMap<string, string>, numbered: boolean,
): ReturnType<typeof peopleOf> {
  const table = {
    columns: columns.map(({ attribute }) => attribute), rows: entries.map(entry => cellsOf(columns, entry)), lines: entries.map((_, index) => index + 1),
  }
  return peopleOf(company, table, {
    as: columns.map(({ meaning }) => meaning), known: entries.map(({ key }) => known.get(key) ?? null), numbered, newId: kind => `${kind}-${randomUUID()}`,
  })
}
