import { randomUUID } from 'node:crypto'
import type { MikroORM } from '@mikro-orm/postgresql'
import { type OnDuty, peopleNamed } from '~~/core/calendar/duty'
import { sentenceOf, Unreadable } from '~~/core/schema/faults'
import type { Spoken } from '~~/words/phrase'
import type { Occurrence } from '~~/core/calendar/occurrences'
import { dayOf } from '~~/core/calendar/zones'
import { wellFormed } from '~~/core/calls/text'
import type { Company } from '~~/core/company/company'
import { lookUp } from '~~/core/company/lookups'
import type { CalendarInfo, Engagement } from '~~/shared/whereabouts'
import { CalendarSpanEntity } from '../database/entities'
import { fromDatabase, muchAtOnce } from '../database/away'
import { wrongInput } from '../validation/read'
import { isWebAddress, Unfetched } from '../outside/ask'
import { fetchCalendar, type Validators } from './fetch'
import type { CalendarReader, Read } from './reader'
import { t } from '../language'

export const whereaboutsChannel = 'whereabouts'

const day = 24 * 60 * 60_000
/** What takes place is worked out for so many days, anew every day. */
const ahead = 35
const behind = 1
/** Rosters are told for so many days, engagements for today and tomorrow. */
const rosterDays = 8
/** How often an address is asked, and a file is looked at for the days to come (PostgreSQL's interval). */
const pauses = { address: '15 minutes', failed: '30 minutes', file: '12 hours', claimed: '2 minutes' }
const lanes = 4
const lookEvery = 30_000
const batch = 500

/** `by`: who has given it. */
interface Row extends Validators { of: string, by: string, address: string | null, content: string, problems: Spoken[] }
const columns = '"of", changed_by as "by", address, content, problems, etag, modified'
const unsaid: Validators = { etag: null, modified: null }
interface Options {
  company: () => Company
  /** What people's clocks show, in milliseconds since 1970. */
  now: () => number
  /** Origins of our own network that may be asked. */
  allowed: readonly string[]
}

/**
 * Calendars of people and rosters of duties: kept with times and places alone, fetched again where they come from an address, and worked out for the days
 * around now. Several servers on one database share the work.
 */
export class Calendars {
  private readonly looking: NodeJS.Timeout
  private busy = false

  constructor(private readonly orm: MikroORM, private readonly reader: CalendarReader, private readonly options: Options) {
    this.looking = setInterval(() => void this.refresh(), lookEvery)
  }

  close(): void {
    clearInterval(this.looking)
    this.reader.close()
  }

  /** True for what can have a calendar. */
  knows(of: string): boolean {
    const company = this.options.company()
    return Boolean(lookUp(company.people, of) ?? lookUp(company.duties, of))
  }

  /** @throws 404 */
  async info(of: string): Promise<CalendarInfo> {
    const [row] = await this.infos('c."of" = ?', [of])
    if (!row) throw createError({ statusCode: 404, message: t('answers.noCalendarThere') })
    return row
  }

  /** Those that come from an address: what fails first. */
  fetched(): Promise<CalendarInfo[]> {
    return this.infos('c.address is not null', [])
  }

  private infos(which: string, values: string[]): Promise<CalendarInfo[]> {
    return this.orm.em.fork().execute<CalendarInfo[]>(
      `select c."of", c.address, c.problems, c.failure, (extract(epoch from c.read_at) * 1000)::float8 as "readAt",
        (select count(*)::int from calendar_span s where s."of" = c."of") as times from calendar c where ${which} order by c.failure is null, c."of"`, values,
    )
  }

  /**
   * Fetches a calendar at once.
   * @throws 404
   */
  async readNow(of: string): Promise<void> {
    const [row] = await fromDatabase(() => this.orm.em.fork().execute<Row[]>(
      `update calendar set next_at = now() + interval '${pauses.claimed}' where "of" = ? returning ${columns}`, [of],
    ))
    if (!row) throw createError({ statusCode: 404, message: t('answers.noCalendarThere') })
    await fromDatabase(() => this.renew(row), muchAtOnce)
  }

  /**
   * Takes a calendar in the place of the one before. One that can't be read or fetched is refused, and the one before stays.
   * @throws 422
   */
  async put(of: string, by: string, source: { address: string | null, content: string | null }): Promise<CalendarInfo> {
    const { address, content } = source
    if ((address === null) === (content === null)) throw wrongInput('address', t('answers.addressOrFile'))
    if (address !== null && !isWebAddress(address)) throw wrongInput('address', t('answers.noWebAddress'))
    try {
      const { text, validators } = address === null ? { text: content, validators: unsaid } : await fetchCalendar(address, this.options.allowed)
      const read = await this.read(of, by, text!)
      await fromDatabase(() => this.write({ of, address, by }, read, validators))
    }
    catch (error) {
      if (error instanceof Unfetched || error instanceof Unreadable) throw wrongInput(address === null ? 'content' : 'address', sentenceOf(t, error))
      throw error
    }
    return fromDatabase(() => this.info(of))
  }

  async remove(of: string): Promise<void> {
    await this.orm.em.fork().execute('delete from calendar where "of" = ?', [of])
    await this.tell()
  }

  /** Looks at every calendar that is due, a few at a time: an address that does not answer keeps nobody else waiting for long. */
  async refresh(): Promise<void> {
    if (this.busy) return
    this.busy = true
    const lane = async () => {
      for (let row = await this.claim(); row; row = await this.claim()) await this.renew(row)
    }
    try {
      await Promise.all(Array.from({ length: lanes }, lane))
    }
    catch {
      // The database is away: whatever was due still is.
    }
    finally {
      this.busy = false
    }
  }

  /** One that is due, for this server alone. */
  private async claim(): Promise<Row | undefined> {
    const [row] = await this.orm.em.fork().execute<Row[]>(
      `update calendar set next_at = now() + interval '${pauses.claimed}' where "of" =
        (select "of" from calendar where next_at <= now() order by next_at limit 1 for update skip locked)
        returning ${columns}`,
    )
    return row
  }

  private async renew(seen: Row): Promise<void> {
    const { of, by, address, content } = seen
    if (!this.knows(of)) return this.remove(of)
    try {
      // What has not changed there is worked out for the days to come from what is here.
      const { text, validators } = address === null ? { text: content, validators: unsaid } : await fetchCalendar(address, this.options.allowed, seen)
      const read = await this.read(of, by, text ?? content)
      // What could not be read of it is known from when it came.
      const problems = text === null ? eachOnce([...seen.problems, ...read.problems]) : read.problems
      await this.write({ of, address, by: null, seen }, { ...read, problems }, validators)
    }
    catch (error) {
      if (!(error instanceof Unfetched || error instanceof Unreadable)) throw error
      await this.orm.em.fork().execute(
        `update calendar set failure = ?, next_at = now() + interval '${pauses.failed}' where "of" = ? and address is not distinct from ? and content = ?`,
        [sentenceOf(t, error).slice(0, 300), of, address, content],
      )
    }
  }

  private read(of: string, by: string, text: string): Promise<Read> {
    const now = this.options.now()
    const window = { from: now - behind * day, to: now + ahead * day }
    const { settings: { zone }, duties } = this.options.company()
    const titles = lookUp(duties, of) !== undefined
    return this.reader.read(by, { text: wellFormed(text), titles, window, zone })
  }

  /** @param kept `by`: who changed it; null: nobody, it is looked at again as it was `seen`, and what somebody has changed meanwhile stays */
  private async write(
    kept: { of: string, address: string | null } & ({ by: string } | { by: null, seen: Row }),
    read: Omit<Read, 'problems'> & { problems: Spoken[] }, { etag, modified }: Validators,
  ): Promise<void> {
    const { of, address, by } = kept
    const { content, occurrences, problems } = read
    const changed = await this.orm.em.fork().transactional(async (tx) => {
      const [now] = await tx.execute<Row[]>(`select ${columns} from calendar where "of" = ? for update`, [of])
      if (by === null && (now?.address !== kept.seen.address || now.content !== kept.seen.content)) return false
      await tx.execute(
        `insert into calendar ("of", address, content, problems, etag, modified, failure, read_at, next_at, changed_by)
          values (?, ?, ?, ?, ?, ?, null, now(), now() + interval '${address === null ? pauses.file : pauses.address}', ?)
          on conflict ("of") do update set address = excluded.address, content = excluded.content, problems = excluded.problems, etag = excluded.etag,
            modified = excluded.modified, failure = null, read_at = now(), next_at = excluded.next_at,
            changed_by = coalesce(nullif(excluded.changed_by, ''), calendar.changed_by)`,
        [of, address, content, JSON.stringify(problems), etag, modified, by ?? ''],
      )
      const before = await tx.execute<Occurrence[]>(`${selectSpans} where "of" = ?`, [of])
      if (sameSpans(before, occurrences)) return false
      await tx.execute('delete from calendar_span where "of" = ?', [of])
      const rows = occurrences.map(occurrence => rowOf(of, occurrence))
      for (let first = 0; first < rows.length; first += batch) await tx.insertMany(CalendarSpanEntity, rows.slice(first, first + batch))
      return true
    })
    if (changed) await this.tell()
  }

  private async tell(): Promise<void> {
    await this.orm.em.fork().execute('select pg_notify(?, ?)', [whereaboutsChannel, ''])
  }

  /** Of today and tomorrow, by the clock of the house. */
  async engagements(): Promise<Engagement[]> {
    const now = this.options.now()
    const { begins, ends } = dayOf(this.options.company().settings.zone, now)
    const rows = await this.spans(begins, ends + day)
    const { people } = this.options.company()
    return rows.filter(({ of }) => lookUp(people, of)).map(({ of, from, to, allDay, place }) => ({ person: of, from, to, allDay, place }))
  }

  /** Of the week to come, and what is under way. */
  async turns(): Promise<(OnDuty['next'] & object & { duty: string })[]> {
    const company = this.options.company()
    const now = this.options.now()
    const rows = await this.spans(now, now + rosterDays * day, Object.keys(company.duties))
    return rows
      .sort((a, b) => (a.priority || 10) - (b.priority || 10) || a.from - b.from)
      .map(({ of, from, to, title }) => ({ duty: of, from, to, ...peopleNamed(company, title) }))
  }

  private spans(from: number, to: number, of?: readonly string[]): Promise<({ of: string } & Occurrence)[]> {
    return this.orm.em.fork().execute(
      `${selectSpans} where to_at > ? and from_at < ? ${of ? 'and "of" = any(?)' : ''} order by from_at, id`,
      [new Date(from), new Date(to), ...(of ? [`{${of.map(id => JSON.stringify(id)).join(',')}}`] : [])],
    )
  }
}

const selectSpans = `select "of", (extract(epoch from from_at) * 1000)::float8 as "from", (extract(epoch from to_at) * 1000)::float8 as "to",
  all_day as "allDay", place, title, priority from calendar_span`

function sameSpans(before: readonly Occurrence[], after: readonly Occurrence[]): boolean {
  const texts = (spans: readonly Occurrence[]) => spans.map(span => [span.from, span.to, span.allDay, span.place, span.title, span.priority].join('|')).sort()
  return texts(before).join('\n') === texts(after).join('\n')
}

function rowOf(of: string, { from, to, allDay, place, title, priority }: Occurrence) {
  return { id: randomUUID(), of, fromAt: new Date(from), toAt: new Date(to), allDay, place, title, priority }
}

function eachOnce(problems: Spoken[]): Spoken[] {
  return [...new Map(problems.map(problem => [JSON.stringify(problem), problem])).values()]
}
