import type { EntityManager } from '@mikro-orm/postgresql'
import type { NumberedEvent } from '~~/core/calls/model'
import type { Parking } from '~~/core/calls/parkings'
import type { CallRecord } from '~~/core/calls/record'
import { fold } from '~~/core/directory/search'
import { formatNumber } from '~~/core/numbers/dialled'
import type { VoiceMessage } from '../messages/voice'

/** The tables that are made from events, and how a batch of changes goes into them: in the journal's own transaction, and as often as one likes. */

export type Change
  = | { kind: 'record', record: CallRecord & { seq: number } }
    | { kind: 'parking', parking: Parking & { names: Record<string, string> } }
    | { kind: 'voice', message: VoiceMessage }
    | { kind: 'block', number: string, reason: string, by: string, at: number }
    | { kind: 'unblock', number: string }
  /** Calls of other epochs, and those of this one that are not among the living at this event, have ended without anybody having seen it. */
    | { kind: 'lost', epoch: string, seq: number, living: string[], at: number }

export interface JournalItem {
  epoch: string
  seq: number
  event: NumberedEvent | null
  changes: Change[]
}

type Of<K extends Change['kind']> = Extract<Change, { kind: K }>

/** Writes events and everything that follows from them. */
export async function writeItems(em: EntityManager, items: readonly JournalItem[]): Promise<void> {
  const entries = items.flatMap(({ epoch, event }) => event ? [{ epoch, seq: event.seq, at: new Date(event.at), type: event.type, call: 'call' in event ? event.call : null, event }] : [])
  if (entries.length > 0) await em.execute(insertEvents, [JSON.stringify(entries)])
  const changes = items.flatMap(item => item.changes)
  const of = <K extends Change['kind']>(kind: K) => changes.filter((change): change is Of<K> => change.kind === kind)
  for (const { parking } of of('parking')) await writeParking(em, parking)
  // Of each call only the newest.
  const records = new Map(of('record').map(({ record }) => [record.id, record]))
  if (records.size > 0) await em.execute(upsertRecords, [JSON.stringify([...records.values()].map(recordRow))])
  const messages = of('voice').map(({ message }) => message)
  if (messages.length > 0) {
    await em.execute(insertMessages, [JSON.stringify(messages.map(messageRow))])
    await em.execute('select pg_notify(\'messages\', ?)', [JSON.stringify([...new Set(messages.map(({ to }) => to))])])
  }
  for (const change of changes) {
    if (change.kind === 'block') await em.execute(upsertBlock, [change.number, change.reason, change.by, new Date(change.at)])
    else if (change.kind === 'unblock') await em.execute('delete from blocked_number where number = ?', [change.number])
    else if (change.kind === 'lost') await closeLost(em, change)
  }
}

/** An absence of the database may lie between: what began after it is none of its business. */
async function closeLost(em: EntityManager, { epoch, seq, living, at }: Of<'lost'>): Promise<void> {
  const time = new Date(at)
  await em.execute(`
    update call_record set outcome = 'lost', ended_at = ?
    where outcome = 'live' and ((epoch <> ? and started_at <= ?) or (epoch = ? and seq <= ? and not id = any(?)))`, [time, epoch, time, epoch, seq, arrayOf(living)])
  await em.execute('update parking set "end" = \'lost\', ended_at = ? where "end" = \'waiting\' and at <= ? and not call = any(?)', [time, time, arrayOf(living)])
}

function arrayOf(texts: string[]): string {
  return `{${texts.map(text => `"${text.replace(/["\\]/g, '\\$&')}"`).join(',')}}`
}

/** Whole batches go in as one JSON parameter: a fraction of the work of a statement built row by row. */
const insertEvents = `
  insert into "journal" select * from jsonb_populate_recordset(null::"journal", ?::jsonb) on conflict do nothing`

const recordColumns = ['seq', 'account', 'answered_at', 'ended_at', 'outcome', 'answered_by', 'ended_with', 'devices', 'names', 'story', 'searchable', 'number', 'name']
const upsertRecords = `
  insert into "call_record" select * from jsonb_populate_recordset(null::"call_record", ?::jsonb)
  on conflict ("id") do update set ${recordColumns.map(column => `"${column}" = excluded."${column}"`).join(', ')}
  where "call_record"."seq" <= excluded."seq"`

/**
 * A stay begins, or the one that the call is in ends: the clock may have been set in between, so that only its call tells which it was.
 * An end once written stays, whoever tells the stay again.
 */
async function writeParking(em: EntityManager, parking: Of<'parking'>['parking']): Promise<void> {
  const { call, end, endedAt, takenBy, names } = parking
  if (end !== 'waiting') {
    const ended = await em.execute<unknown[]>(endParking, [end, new Date(endedAt!), takenBy, JSON.stringify(names), call])
    if (ended.length > 0) return
  }
  await em.execute(insertParking, [JSON.stringify(parkingRow(parking)), call, endedAt === null ? null : new Date(endedAt)])
}

const endParking = `
  update "parking" set "end" = ?, "ended_at" = ?, "taken_by" = ?, "names" = "names" || ?::jsonb where "call" = ? and "end" = 'waiting' returning 1`

const insertParking = `
  insert into "parking" select * from jsonb_populate_record(null::"parking", ?::jsonb)
  where not exists (select 1 from "parking" where "call" = ? and "ended_at" = ?) on conflict do nothing`

/** The same end of the same call, told twice, is one message; one that has been read stays read. */
const insertMessages = `
  insert into "message" select * from jsonb_populate_recordset(null::"message", ?::jsonb) on conflict do nothing`

const upsertBlock = `
  insert into "blocked_number" ("number", "reason", "by", "at") values (?, ?, ?, ?)
  on conflict ("number") do update set "reason" = excluded."reason", "by" = excluded."by", "at" = excluded."at"`

function parkingRow({ call, at, slot, by, for: reserved, caller, party, end, endedAt, takenBy, names }: Of<'parking'>['parking']): Record<string, unknown> {
  return {
    call, slot, by, caller, end, names, for: reserved,
    at: new Date(at), ended_at: endedAt === null ? null : new Date(endedAt), taken_by: takenBy,
    number: party?.number ?? null, name: party?.name ?? null,
  }
}

function recordRow(record: Of<'record'>['record']): Record<string, unknown> {
  const date = (ms: number | null) => ms === null ? null : new Date(ms)
  const { id, epoch, seq, direction, number, name, dialled, line, account, outcome, devices, names, story } = record
  const shown = number && formatNumber(number)
  return {
    id, epoch, seq, direction, number, name, dialled, line, account, outcome, devices, names, story,
    started_at: date(record.startedAt),
    answered_at: date(record.answeredAt),
    ended_at: date(record.endedAt),
    answered_by: record.answeredBy,
    ended_with: record.endedWith,
    searchable: fold([number, shown, shown?.replace(/\s/g, ''), name, dialled, line, account, ...devices, ...Object.values(names)].filter(Boolean).join(' ')),
  }
}

function messageRow({ id, to, caller, number, text, seconds, at }: VoiceMessage): Record<string, unknown> {
  return { id, kind: 'voice', to, from: '', from_name: '', caller, number, text, urgent: false, call_back: false, seconds, at: new Date(at), read_at: null }
}
