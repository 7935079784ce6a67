import { createHash } from 'node:crypto'
import { setImmediate } from 'node:timers/promises'
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import { dayOf, localTime } from '~~/core/calendar/zones'
import { promises } from '~~/core/queues/promises'
import type { Company } from '~~/core/company/company'
import { lookUp } from '~~/core/company/lookups'
import { insertRows } from '../database/rows'
import { type Attended, dayBounds, type DayFigures, dayFigures, type DayRules, type Subject } from '~~/core/figures/day'
import type { Leg } from '~~/core/figures/legs'

/**
 * The figures of days, counted from the legs of their calls. Those of a day that is over are kept (`day_figures`), with what they were made of: the rules, and
 * how often something had changed in those days. So what is kept is either right or counted again, whoever has changed what, and on whichever server.
 */

export const dayLength = 24 * 60 * 60_000
/** The form of what is kept: raised when it changes. */
const version = 2

/** Within which a place promises an answer: a line, a queue, or our own for whoever is rung directly. */
export function rulesOf({ settings: { zone, shortAbandon }, lines, groups }: Company): DayRules {
  return { zone, shortAbandon, promiseOf: place => lookUp(lines, place)?.promise ?? (lookUp(groups, place)?.promise || promises.direct) }
}

/** The rules in short, as they are kept beside what was made of them. */
function madeOf({ settings: { zone, shortAbandon }, lines, groups }: Company): string {
  const promised = Object.values({ ...lines, ...groups }).map(({ id, promise }) => `${id} ${promise}`).sort()
  return `${createHash('sha256').update(JSON.stringify([version, zone, shortAbandon, promised])).digest('base64url')} `
}

const subjectText = ({ line, queue }: Subject) => JSON.stringify([line, queue])
const asDate = (local: number) => new Date(local).toISOString().slice(0, 10)

/** Changes in the days around one (of UTC): in those of its calls, and of those before them. */
const changeAround = (day: string) => `(select max(change) from figures_changed c where c.day between ${day} - 2 and ${day} + 1)`

export interface Asked {
  em: EntityManager
  company: Company
  now: number
  /** Whoever asked has gone: what is not yet counted need not be. */
  gone: () => boolean
}

/**
 * The figures of each day of a period on which there were calls, one after the other. Between two of them others have their turn.
 * @param first the midnight of the first day as the clock shows it, as if in UTC; @param last that of the last
 */
export async function* figuresOf(asked: Asked, first: number, last: number, subject: Subject): AsyncGenerator<[local: number, figures: DayFigures]> {
  const { em, company } = asked
  const kept = await em.execute<{ day: string, figures: DayFigures | null }[]>(
    `select d.day::text as day, k.figures from (
      select distinct (c.day + shift) as day from figures_changed c, generate_series(-1, 1) shift where c.day between ?::date - 1 and ?::date + 1
    ) d left join day_figures k on k.day = d.day and k.subject = ? and k.made_of = ?::text || ${changeAround('d.day')}
    where d.day between ?::date and ?::date order by d.day`,
    [asDate(first), asDate(last), subjectText(subject), madeOf(company), asDate(first), asDate(last)],
  )
  for (const { day, figures } of kept) {
    if (asked.gone()) return
    const local = Date.parse(day)
    yield [local, figures ?? (await counted(asked, local, [subject]))[0]!]
  }
}

/** Counts a day for some subjects, and keeps what will not change by itself. */
async function counted({ em, company, now }: Asked, local: number, subjects: readonly Subject[]): Promise<DayFigures[]> {
  const rules = rulesOf(company)
  // What has changed is asked before the calls are read: whatever changes meanwhile makes it count again.
  const [{ change }] = await em.execute<[{ change: string | null }]>(`select ${changeAround('?::date')} as change`, [asDate(local), asDate(local)])
  const { legs, attended } = await readDay(em, rules.zone, local, now)
  const figures: DayFigures[] = []
  for (const subject of subjects) {
    figures.push(dayFigures(local, legs, attended, subject, rules, now))
    // Calls have their turn between any two.
    await setImmediate()
  }
  const isOpen = ({ waited, end, talked }: Leg) => waited === null || (end === 'answered' && talked === null)
  const isOver = dayBounds(rules.zone, local).until <= now && !legs.some(isOpen)
  if (isOver) {
    const rows = subjects.map((subject, at) => ({
      day: asDate(local), subject: subjectText(subject), made_of: `${madeOf(company)}${change ?? ''}`, figures: figures[at],
    }))
    await em.execute(`${insertRows('day_figures', ['day', 'subject', 'made_of', 'figures'])}
      on conflict (day, subject) do update set made_of = excluded.made_of, figures = excluded.figures`, [JSON.stringify(rows)])
  }
  return figures
}

/** The legs of a day and of the one before, older ones that last into them, and who was there as an operator. */
async function readDay(em: EntityManager, zone: string, local: number, now: number): Promise<{ legs: Leg[], attended: Attended[] }> {
  const before = dayBounds(zone, local - dayLength)
  const { until } = dayBounds(zone, local)
  const columns = `call, kind as of, place, (extract(epoch from at) * 1000)::float8 as at, direction, line, number, passed_by as "passedBy", back, "end", cause,
    "by", waited::float8 as waited, talked::float8 as talked, held::float8 as held, next, seq`
  const isLong = `(waited is null or ("end" = 'answered' and talked is null) or waited + coalesce(talked, 0) > 86400000)`
  const [from, to] = [new Date(before.from), new Date(until)]
  const legs = await em.execute<Leg[]>(
    `select * from (select ${columns} from leg where at >= ? and at < ?
      union all select ${columns} from leg where ${isLong} and at < ? and (waited is null or talked is null
        or at + (waited + talked) * interval '1 millisecond' >= ?)) of_the_day order by at, call, seq`,
    [from, to, from, from],
  )
  const attended = await em.execute<Attended[]>(
    `select device, (extract(epoch from at) * 1000)::float8 as "from", coalesce((extract(epoch from until) * 1000)::float8, ?) as until from attendance
      where at < ? and coalesce(until, ?) > ? order by at`, [now, to, to, from],
  )
  return { legs, attended }
}

/** What is asked of a day by anybody: everything, every line and queue, and every queue with every line. */
async function subjectsOf(em: EntityManager, zone: string, local: number): Promise<Subject[]> {
  const { from, until } = dayBounds(zone, local)
  const rows = await em.execute<{ line: string | null, queue: string | null }[]>(
    `select distinct line, case kind when 'group' then place end as queue from leg where at >= ? and at < ? and kind in ('line', 'group')`,
    [new Date(from), new Date(until)],
  )
  const all = rows.flatMap(({ line, queue }) => [{ line: null, queue: null }, { line, queue: null }, { line: null, queue }, { line, queue }])
  return [...new Map(all.map(subject => [subjectText(subject), subject])).values()]
}

/** Counts the days that are over and not yet counted, the latest first, so that a report finds them ready. What two servers count is the same. */
export async function prepareDays(orm: MikroORM, company: () => Company, now: () => number, gone: () => boolean): Promise<void> {
  const em = orm.em.fork()
  const { settings: { zone } } = company()
  const { local: today } = todayOf(zone, now())
  const due = await em.execute<{ day: string }[]>(
    `select d.day::text as day from (select distinct (c.day + shift) as day from figures_changed c, generate_series(-1, 1) shift) d
      left join day_figures k on k.day = d.day and k.subject = ? and k.made_of = ?::text || ${changeAround('d.day')}
      where d.day < ?::date and k.day is null order by d.day desc`,
    [subjectText({ line: null, queue: null }), madeOf(company()), asDate(today)],
  )
  for (const { day } of due) {
    if (gone()) return
    const local = Date.parse(day)
    const subjects = await subjectsOf(em, zone, local)
    await counted({ em, company: company(), now: now(), gone }, local, subjects.length > 0 ? subjects : [{ line: null, queue: null }])
  }
}

/** When today began, and its midnight as the clock shows it, as if in UTC. */
export function todayOf(zone: string, now: number): { begins: number, local: number } {
  return { begins: dayOf(zone, now).begins, local: Math.floor(localTime(zone, now) / dayLength) * dayLength }
}

const lookEvery = 60 * 60_000

/** Keeps the figures of days that are over ready: when a server begins, and every hour. */
export class DayKeeper {
  private readonly timer = setInterval(() => void this.look(), lookEvery)
  private closed = false
  private looking = false

  constructor(private readonly orm: MikroORM, private readonly company: () => Company, private readonly now: () => number) {}

  async look(): Promise<void> {
    if (this.looking || this.closed) return
    this.looking = true
    // While the database is away reports count for themselves, or wait for it.
    await prepareDays(this.orm, this.company, this.now, () => this.closed).catch(() => {})
    this.looking = false
  }

  close(): void {
    this.closed = true
    clearInterval(this.timer)
  }
}
