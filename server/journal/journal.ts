import type { MikroORM } from '@mikro-orm/postgresql'
import type { NumberedEvent } from '~~/core/calls/model'
import type { Parking } from '~~/core/calls/parkings'
import type { CallRecord } from '~~/core/calls/record'
import { fold } from '~~/core/directory/search'
import { formatNumber } from '~~/core/numbers/dialled'
import type { Position } from '~~/shared/feed'
import { CallRecordEntity, JournalEntry, ParkingEntity } from '../database/entities'

const largestBatch = 500
const pauseAfterFailure = 500
/** Events are gathered for this long (milliseconds) and written together; the exchange tells again what a killed server had gathered. */
const gathering = 60

export interface JournalItem {
  epoch: string
  event: NumberedEvent | null
  /** Records of calls as they are after the event, when it changed them. */
  records: (CallRecord & { seq: number })[]
  /** A stay in a park slot that began or ended. */
  parking: (Parking & { names: Record<string, string> }) | null
}

/**
 * Writes events and call records to PostgreSQL, in order and together. Calls never wait for it: while the database is away
 * it keeps everything in memory, and catches up afterwards. Writing twice is harmless, so several servers may write the same events.
 */
export class Journal {
  private queue: JournalItem[] = []
  private writing = false
  private failing = false
  private closed = false
  private hurry = false
  private idle: (() => void)[] = []

  constructor(private readonly orm: MikroORM, private readonly log: (text: string) => void) {}

  /** Events not yet written. */
  get behind(): number {
    return this.queue.length
  }

  get healthy(): boolean {
    return !this.failing
  }

  add(items: JournalItem[]): void {
    for (const item of items) this.queue.push(item)
    if (!this.writing) void this.write()
  }

  /** Waits until everything so far is written, or the database is away. */
  async settle(): Promise<void> {
    this.hurry = true
    if (this.writing && !this.failing) await new Promise<void>(resolve => this.idle.push(resolve))
  }

  close(): void {
    this.closed = true
  }

  /** The last event written of the latest epoch. */
  async lastPosition(): Promise<Position | undefined> {
    const [latest] = await this.orm.em.fork().find(JournalEntry, {}, { orderBy: { at: 'desc', seq: 'desc' }, limit: 1 })
    if (!latest) return undefined
    const [last] = await this.orm.em.fork().find(JournalEntry, { epoch: latest.epoch }, { orderBy: { seq: 'desc' }, limit: 1 })
    return { epoch: latest.epoch, seq: last!.seq }
  }

  /** Closes the records of calls that ended without anybody having seen it: those of other epochs, and those no longer there. */
  async closeLost(epoch: string, living: string[], now: number): Promise<void> {
    await this.orm.em.fork().nativeUpdate(
      CallRecordEntity,
      { outcome: 'live', $or: [{ epoch: { $ne: epoch } }, { id: { $nin: living } }] },
      { outcome: 'lost', endedAt: new Date(now) },
    )
    await this.orm.em.fork().nativeUpdate(ParkingEntity, { end: 'waiting', call: { $nin: living } }, { end: 'lost', endedAt: new Date(now) })
  }

  private async write(): Promise<void> {
    this.writing = true
    while (this.queue.length > 0 && !this.closed) {
      if (this.queue.length < largestBatch && !this.hurry) await new Promise(resolve => setTimeout(resolve, gathering))
      const batch = this.queue.slice(0, largestBatch)
      try {
        await this.writeBatch(batch)
        this.queue = this.queue.slice(batch.length)
        if (this.failing) this.log(`journal: database is back, ${this.queue.length} events to catch up`)
        this.failing = false
      }
      catch (error) {
        if (!this.failing) this.log(`journal: database does not take events, keeping them: ${(error as Error).message}`)
        this.failing = true
        for (const resolve of this.idle.splice(0)) resolve()
        await new Promise(resolve => setTimeout(resolve, pauseAfterFailure))
      }
    }
    this.writing = false
    this.hurry = false
    for (const resolve of this.idle.splice(0)) resolve()
  }

  private async writeBatch(batch: JournalItem[]): Promise<void> {
    const entries = batch.flatMap(({ epoch, event }) => event
      ? [{ epoch, seq: event.seq, at: new Date(event.at), type: event.type, call: 'call' in event ? event.call : null, event }]
      : [])
    // Of each call only the newest record of the batch.
    const records = new Map(batch.flatMap(item => item.records.map(record => [record.id, record] as const)))
    const parkings = new Map(batch.flatMap(({ parking }) => parking ? [[`${parking.call} ${parking.at}`, parking] as const] : []))
    await this.orm.em.fork().transactional(async (em) => {
      if (parkings.size > 0) await em.execute(upsertParkings, [JSON.stringify([...parkings.values()].map(parkingRow))])
      if (entries.length > 0) await em.execute(insertEvents, [JSON.stringify(entries)])
      if (records.size > 0) await em.execute(upsertRecords, [JSON.stringify([...records.values()].map(rowOf))])
    })
  }
}

/** Whole batches go in as one JSON parameter: a fraction of the work of a statement built row by row. */
const insertEvents = `
  insert into "journal" select * from jsonb_populate_recordset(null::"journal", ?::jsonb) on conflict do nothing`

const recordColumns = ['seq', 'account', 'answered_at', 'ended_at', 'outcome', 'answered_by', 'ended_with', 'devices', 'names', 'story', 'searchable', 'number', 'name']
const upsertRecords = `
  insert into "call_record" select * from jsonb_populate_recordset(null::"call_record", ?::jsonb)
  on conflict ("id") do update set ${recordColumns.map(column => `"${column}" = excluded."${column}"`).join(', ')}
  where "call_record"."seq" <= excluded."seq"`

/** An end once written stays, whoever tells the beginning again. */
const upsertParkings = `
  insert into "parking" select * from jsonb_populate_recordset(null::"parking", ?::jsonb)
  on conflict ("call", "at") do update set "end" = excluded."end", "ended_at" = excluded."ended_at", "taken_by" = excluded."taken_by", "names" = "parking"."names" || excluded."names"
  where "parking"."end" = 'waiting'`

function parkingRow({ call, at, slot, by, for: reserved, caller, party, end, endedAt, takenBy, names }: NonNullable<JournalItem['parking']>): Record<string, unknown> {
  return {
    call, slot, by, caller, end, names, for: reserved,
    at: new Date(at), ended_at: endedAt === null ? null : new Date(endedAt), taken_by: takenBy,
    number: party?.number ?? null, name: party?.name ?? null,
  }
}

function rowOf(record: CallRecord & { seq: number }): Record<string, unknown> {
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
