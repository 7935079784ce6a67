import { type FilterQuery, raw } from '@mikro-orm/core'
import { fold } from '~~/core/directory/search'
import { missedOutcomes } from '~~/core/calls/record'
import { type LogKind, logPage, logQuery } from '~~/shared/log'
import { seesCallers } from '~~/shared/roles'
import { fromDatabase } from '../../database/away'
import { CallRecordEntity, type CallRecordRow, DealtWithEntity } from '../../database/entities'
import { defineEndpoint } from '../../endpoints/define'
import { rowToShow } from '../../journal/rows'
import { useRelay } from '../../relay'

const kinds: Record<Exclude<LogKind, 'dialled'>, FilterQuery<CallRecordRow>> = {
  all: {},
  in: { direction: 'inbound' },
  out: { direction: 'outbound' },
  missed: { outcome: { $in: missedOutcomes } },
}

export default defineEndpoint({
  summary: 'The call log, newest first; staff members see the calls of their own telephone',
  mayAsk: 'signedIn',
  query: logQuery,
  answer: logPage,
}, async ({ person, query }) => {
  const conditions: FilterQuery<CallRecordRow>[] = query.kind === 'dialled'
    // The first device of a call that one of ours made is theirs.
    ? [{ direction: { $ne: 'inbound' }, [raw('devices[1]')]: person.device ?? '' }]
    : [kinds[query.kind]]
  for (const word of fold(query.text).split(/\s+/).filter(Boolean)) {
    conditions.push({ searchable: { $like: `%${word.replace(/[\\%_]/g, '\\$&')}%` } })
  }
  if (query.call) conditions.push({ id: query.call })
  if (query.line) conditions.push({ line: query.line })
  if (query.from !== undefined) conditions.push({ startedAt: { $gte: new Date(query.from) } })
  if (query.until !== undefined) conditions.push({ startedAt: { $lt: new Date(query.until) } })
  if (query.number) conditions.push({ number: query.number })
  if (!seesCallers(person.role)) conditions.push({ devices: { $contains: [person.device ?? ''] } })
  if (query.before) {
    const [at, id] = query.before.split('~')
    const startedAt = new Date(Number(at))
    conditions.push({ $or: [{ startedAt: { $lt: startedAt } }, { startedAt, id: { $lt: id! } }] })
  }
  const em = useRelay().orm.em.fork()
  const rows = await fromDatabase(() =>
    em.find(CallRecordEntity, { $and: conditions }, { orderBy: { startedAt: 'desc', id: 'desc' }, limit: query.limit + 1 }),
  )
  const page = rows.slice(0, query.limit)
  const dealt = await fromDatabase(() => em.find(DealtWithEntity, { call: { $in: page.map(({ id }) => id) } }))
  const dealtWith = new Map(dealt.map(({ call, byName, at, calledBack }) => [call, { by: byName, at: at.getTime(), calledBack }]))
  const last = page.at(-1)
  return {
    rows: page.map(row => ({ ...rowToShow(row), dealtWith: dealtWith.get(row.id) ?? null })),
    next: rows.length > query.limit && last ? `${last.startedAt.getTime()}~${last.id}` : null,
  }
})
