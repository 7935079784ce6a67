import { spoken } from '~~/words/phrase'
import { t } from '../../language'
import type { EntityManager } from '@mikro-orm/postgresql'
import { isPrompt } from '~~/core/calls/call-backs/call-backs'
import { stepOf } from '~~/core/calls/events'
import type { Call, ExchangeState, NumberedEvent } from '~~/core/calls/model'
import { type CallRecord, recordOf } from '~~/core/calls/record'
import { withoutMarks } from '~~/core/directory/folding'
import { formatNumber } from '~~/core/numbers/dialled'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** What became of every call: table `call_record`. */

/** `shown`: the other side's number as people write it here, and look for it. */
type Numbered = CallRecord & { seq: number, shown?: string | null }

export type RecordChange
  = | { kind: 'record', record: Numbered }
  /** Calls of other epochs, and those of this one that are not among the living at this event, have ended without anybody having seen it. */
    | { kind: 'lost', epoch: string, seq: number, living: string[], parked: string[], at: number }

export const records: Projection<RecordChange> = {
  changes(event, before, after) {
    if (!('call' in event)) return []
    // Who was only rung to call somebody back has had no call.
    const call = after.calls.get(event.call) ?? before.calls.get(event.call)
    if (call && isPrompt(call)) return []
    const was = before.calls.get(event.call)
    const is = after.calls.get(event.call)
    const joined = 'joined' in event && event.joined ? before.calls.get(event.joined) : undefined
    const made: Numbered[] = []
    if (is && (event.type === 'originated' || stepOf(event))) made.push({ ...recordOf(after, is, null), seq: event.seq })
    else if (was && event.type === 'callCleared') made.push({ ...recordOf(after, was, stepOf(event)), seq: event.seq })
    if (joined) made.push(joinedRecord(after, joined, event))
    return made.map(record => ({ kind: 'record', record: asRead(record, after) }))
  },

  whole: {
    of: event => ['call' in event ? [event.call] : [], 'joined' in event && event.joined ? [event.joined] : []].flat(),
    row: change => change.kind === 'record' ? change.record.id : null,
  },

  async write(em, changes) {
    // Of each call only the newest.
    const newest = new Map(changes.flatMap(change => change.kind === 'record' ? [[change.record.id, change.record]] : []))
    if (newest.size > 0) await em.execute(upsertRecords, [JSON.stringify([...newest.values()].map(recordRow))])
    for (const change of changes) if (change.kind === 'lost') await closeLost(em, change)
  },
}

/** Calls as they stand in a state with which the journal begins, or begins again; whatever else still counts as live has been lost. */
export function livingCalls(state: ExchangeState, at: number): RecordChange[] {
  const { epoch, seq } = state
  const calls = [...state.calls.values()].filter(call => !isPrompt(call))
  return [
    ...calls.map((call): RecordChange => ({ kind: 'record', record: asRead({ ...recordOf(state, call, null), seq }, state) })),
    { kind: 'lost', epoch, seq, living: calls.map(({ id }) => id), parked: calls.filter(({ parked }) => parked).map(({ id }) => id), at },
  ]
}

/** A record with the times that people read, and with its number as they write it. */
function asRead(written: Numbered, { clockOffset: offset, company: { settings } }: ExchangeState): Numbered {
  const record = { ...written, shown: written.number && formatNumber(written.number, settings) }
  if (offset === 0) return record
  const wall = <T extends number | null>(at: T) => (at === null ? null : at + offset) as T
  return {
    ...record,
    startedAt: wall(record.startedAt),
    answeredAt: wall(record.answeredAt),
    endedAt: wall(record.endedAt),
    story: record.story.map(step => ({ ...step, at: wall(step.at) })),
  }
}

/** A consultation that has become part of its caller's call is over, and has been of use. */
function joinedRecord(state: ExchangeState, call: Call, { at, seq, ...event }: NumberedEvent): Numbered {
  const end = { at, type: 'callCleared' as const, device: 'device' in event ? event.device : call.calling, cause: 'normalClearing' as const }
  return { ...recordOf(state, call, end), outcome: 'joined', seq }
}

/** Runs of the exchange that the journal met after a given one: an absence of the database may lie between, and what began then is none of its business. */
const laterEpochs = '(select epoch from journal_state where position > coalesce((select min(position) from journal_state where epoch = ?), 0))'

async function closeLost(em: EntityManager, { epoch, seq, living, parked = [], at }: Extract<RecordChange, { kind: 'lost' }>): Promise<void> {
  const time = new Date(at)
  await em.execute(
    `
    update call_record set outcome = 'lost', ended_at = greatest(started_at, ?)
    where outcome = 'live' and ((epoch <> ? and epoch not in ${laterEpochs}) or (epoch = ? and seq <= ? and not id = any(?)))`,
    [time, epoch, epoch, epoch, seq, arrayOf(living)],
  )
  await em.execute(`
    update parking set "end" = 'lost', ended_at = greatest(at, ?)
    where "end" = 'waiting' and split_part(call, '-', 1) not in ${laterEpochs} and not call = any(?)`, [time, epoch, arrayOf(parked)])
}

function arrayOf(texts: string[]): string {
  return `{${texts.map(text => `"${text.replace(/["\\]/g, '\\$&')}"`).join(',')}}`
}

/** What a later event of a call changes. */
const recordColumns = [
  'seq',
  'account',
  'answered_at',
  'ended_at',
  'outcome',
  'answered_by',
  'ended_with',
  'devices',
  'names',
  'story',
  'searchable',
  'number',
  'name',
]
const upsertRecords = `
  ${insertRows('call_record', ['id', 'epoch', 'direction', 'dialled', 'line', 'started_at', ...recordColumns])}
  on conflict ("id") do update set ${recordColumns.map(column => `"${column}" = excluded."${column}"`).join(', ')}
  where "call_record"."seq" <= excluded."seq"`

function recordRow(record: Numbered): Record<string, unknown> {
  const date = (ms: number | null) => ms === null ? null : new Date(ms)
  const { id, epoch, seq, direction, number, name, dialled, line, account, outcome, devices, names, story } = record
  const shown = record.shown ?? null
  // An item that an earlier version left in a file has none.
  const numbers = record.numbers ?? []
  return {
    id, epoch, seq, direction, number, name, dialled, line, account, outcome, devices, names, story,
    started_at: date(record.startedAt),
    answered_at: date(record.answeredAt),
    ended_at: date(record.endedAt),
    answered_by: record.answeredBy,
    ended_with: record.endedWith,
    searchable: withoutMarks(
      [number, shown, shown?.replace(/\s/g, ''), name, dialled, line, account, ...numbers,
        ...Object.values(names).map(name => spoken(t, name))].filter(Boolean).join(' '),
    ),
  }
}
