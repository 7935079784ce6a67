import { type EntityManager, type FilterQuery, raw } from '@mikro-orm/postgresql'
import type { InferType } from 'yup'
import { missedOutcomes } from '~~/core/calls/record'
import { withoutMarks } from '~~/core/directory/folding'
import type { LogKind, LogPage, logQuery } from '~~/shared/log'
import type { SignedIn } from '~~/shared/people'
import { seesCallers } from '~~/shared/roles'
import { CallRecordEntity, type CallRecordRow, DealtWithEntity } from '../database/entities'
import { rowToShow } from './rows'

const kinds: Record<Exclude<LogKind, 'dialled'>, FilterQuery<CallRecordRow>> = {
  all: {},
  in: { direction: 'inbound' },
  out: { direction: 'outbound' },
  missed: { outcome: { $in: missedOutcomes } },
}

/** A page of the call log, newest first, as somebody may see it. */
export async function readLog(em: EntityManager, person: Pick<SignedIn, 'device' | 'role'>, query: InferType<typeof logQuery>): Promise<LogPage> {
  const conditions: FilterQuery<CallRecordRow>[] = query.kind === 'dialled'
    // The first device of a call that one of ours made is theirs.
    ? [{ direction: { $ne: 'inbound' }, [raw('devices[1]')]: person.device ?? '' }]
    : [kinds[query.kind]]
  for (const word of withoutMarks(query.text).split(/\s+/).filter(Boolean)) {
    conditions.push({ searchable: { $like: `%${word.replace(/[\\%_]/g, '\\$&')}%` } })
  }
  if (query.call) conditions.push({ id: query.call })
  if (query.outcome) conditions.push({ outcome: query.outcome })
  if (query.line) conditions.push({ line: query.line })
  if (query.from !== undefined) conditions.push({ startedAt: { $gte: new Date(query.from) } })
  if (query.until !== undefined) conditions.push({ startedAt: { $lt: new Date(query.until) } })
  if (query.number) conditions.push({ number: query.number })
  if (query.device) conditions.push({ devices: { $contains: [query.device] } })
  if (!seesCallers(person.role)) conditions.push({ devices: { $contains: [person.device ?? ''] } })
  if (query.before) {
    const [at, id] = query.before.split('~')
    const startedAt = new Date(Number(at))
    conditions.push({ $or: [{ startedAt: { $lt: startedAt } }, { startedAt, id: { $lt: id! } }] })
  }
  const rows = await em.find(CallRecordEntity, { $and: conditions }, { orderBy: { startedAt: 'desc', id: 'desc' }, limit: query.limit + 1 })
  const page = rows.slice(0, query.limit)
  const dealt = await em.find(DealtWithEntity, { call: { $in: page.map(({ id }) => id) } })
  const dealtWith = new Map(dealt.map(({ call, byName, at, calledBack }) => [call, { by: byName, at: at.getTime(), calledBack }]))
  const last = page.at(-1)
  return {
    rows: page.map(row => ({ ...rowToShow(row), dealtWith: dealtWith.get(row.id) ?? null })),
    next: rows.length > query.limit && last ? `${last.startedAt.getTime()}~${last.id}` : null,
  }
}
