import type { EntityManager } from '@mikro-orm/postgresql'
import type { InferType } from 'yup'
import { instantOf } from '~~/core/calendar/zones'
import { plainText } from '~~/core/calls/text'
import type { Company } from '~~/core/company/company'
import { accountCodeOf } from '~~/core/company/lookups'
import { writeTable } from '~~/core/formats/csv'
import { formatNumber } from '~~/core/numbers/dialled'
import type { Charge, Charges, chargesQuery } from '~~/shared/charges'
import { daysOf } from '../validation/period'
import { wrongInput } from '../validation/read'
import { t } from '../language'

/**
 * What calls outside are put down to, for billing: those that one of ours made and somebody answered, for as long as they lasted from then. A code that was
 * corrected counts instead of the one that was typed; what was typed stays in the journal.
 */

type Query = InferType<typeof chargesQuery>

const shown = 500
const mostInFile = 50_000
const day = 24 * 60 * 60_000

const answered = `
  select r.id as call, coalesce(k."after", r.account, '') as code, coalesce(r.names->>(r.devices[1]), '') as "by", coalesce(r.number, r.dialled) as number,
    coalesce(r.name, '') as name, (extract(epoch from r.started_at) * 1000)::float8 as "startedAt",
    (extract(epoch from r.ended_at - r.answered_at) * 1000)::float8 as length, k."by" as "correctedBy", k.at as "correctedAt", k."before"
  from call_record r
  left join lateral (
    select c."after", c."before", coalesce(a.name, c."by") as "by", (extract(epoch from c.at) * 1000)::float8 as at
    from account_correction c left join account a on a.sign_in = c."by" where c.call = r.id order by c.id desc limit 1
  ) k on true
  where r.direction = 'outbound' and r.answered_at is not null and r.ended_at is not null`

interface Row extends Omit<Charge, 'corrected'> { correctedBy: string | null, correctedAt: number | null, before: string | null }

function chargeOf({ correctedBy, correctedAt, before, ...charge }: Row): Charge {
  return { ...charge, corrected: correctedBy === null ? null : { by: correctedBy, at: correctedAt!, before: before ?? '' } }
}

/** The instants at which a period of whole days begins and ends, by a clock. */
function periodOf(query: Query, zone: string): [Date, Date] {
  const { first, last } = daysOf(query)
  return [new Date(instantOf(zone, first)), new Date(instantOf(zone, last + day))]
}

export async function chargesOf(em: EntityManager, query: Query, zone: string): Promise<Charges> {
  const period = periodOf(query, zone)
  const within = `${answered} and r.started_at >= ? and r.started_at < ?`
  const sums = await em.execute<Charges['sums']>(
    `select code, count(*)::int as calls, sum(length)::float8 as length from (${within}) all_of_them group by code order by code`, period,
  )
  const [rows, wanted] = await theCalls(em, query, period, shown)
  const count = sums.filter(({ code }) => wanted === null || code.toLowerCase() === wanted).reduce((sum, { calls }) => sum + calls, 0)
  return { sums, calls: rows, more: count - rows.length }
}

/** @returns the latest calls, and the code that was asked for; null: any */
async function theCalls(em: EntityManager, query: Query, period: [Date, Date], most: number): Promise<[Charge[], string | null]> {
  const wanted = query.code === '' ? null : query.code === 'none' ? '' : query.code.toLowerCase()
  const rows = await em.execute<Row[]>(
    `select * from (${answered} and r.started_at >= ? and r.started_at < ?) all_of_them ${wanted === null ? '' : 'where lower(code) = ?'}
      order by "startedAt" desc, call limit ${most}`, [...period, ...wanted === null ? [] : [wanted]],
  )
  return [rows.map(chargeOf), wanted]
}

/** The same as CSV (RFC 4180), the newest first. */
export async function chargesTable(em: EntityManager, query: Query, company: Company): Promise<string> {
  const { zone } = company.settings
  const [rows] = await theCalls(em, query, periodOf(query, zone), mostInFile)
  const clock = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'medium' })
  return writeTable(
    ['code', 'for', 'begun', 'by', 'number', 'name', 'seconds', 'corrected by', 'code before'],
    rows.map(({ code, startedAt, by, number, name, length, corrected }) => [
      code, accountCodeOf(company, code)?.name ?? '', clock.format(startedAt), by,
      formatNumber(number, company.settings), name, String(Math.round(length / 1_000)),
      corrected?.by ?? '', corrected?.before ?? '',
    ]),
  )
}

/**
 * Puts a call down to another code, or to none.
 * @throws 404, 409 when somebody else has done so meanwhile, 422 for a code that is none
 */
export async function correctCharge(em: EntityManager, call: string, by: string, change: { code: string, seen: string }, company: Company): Promise<Charge> {
  const typed = plainText(change.code, 24)
  const listed = accountCodeOf(company, typed)?.code
  if (typed !== '' && !listed && company.settings.listedCodesOnly)
    throw wrongInput('code', t('answers.noSuchCode', { code: typed }))
  const one = `select * from (${answered} and r.id = ?) one`
  return em.transactional(async (tx) => {
    await tx.execute('select 1 from call_record where id = ? for update', [call])
    const [row] = await tx.execute<Row[]>(one, [call])
    if (!row) throw createError({ statusCode: 404, message: t('answers.noSuchAnsweredCall') })
    if (row.code !== change.seen)
      throw createError({ statusCode: 409, message: t('answers.bookedMeanwhile', { code: row.code || t('answers.noCode') }) })
    await tx.execute('insert into account_correction (call, "by", "before", "after") values (?, ?, ?, ?)', [call, by, row.code, listed ?? typed])
    const [now] = await tx.execute<Row[]>(one, [call])
    return chargeOf(now!)
  })
}
