import type { EntityManager } from '@mikro-orm/postgresql'
import { eventVersion, type ExchangeState, type NumberedEvent } from '~~/core/calls/model'
import { type Snapshot, snapshotOf } from '~~/core/calls/snapshot'
import type { Position } from '~~/shared/feed'
import { attendance, type AttendanceChange, thereAtFirst } from './projections/attendance'
import { type BlockChange, blocks } from './projections/blocks'
import { type CallBackChange, callBacks, openPromises } from './projections/call-backs'
import { type ConversationChange, conversations } from './projections/conversations'
import { legs, type LegsChange, livingLegs } from './projections/legs'
import { livingParkings, type ParkingChange, parkings } from './projections/parkings'
import type { Projection } from './projections/projection'
import { keptMailboxes, type MailboxChange, mailboxes } from './projections/mailboxes'
import { livingCalls, type RecordChange, records } from './projections/records'
import { type VoiceChange, voicemail } from './projections/voicemail'
import { insertRows } from '../database/rows'

/** What goes into the journal, and with it into the tables that are made from it: in one transaction, and as often as one likes. */

export type Change
  = RecordChange | ParkingChange | BlockChange | VoiceChange | ConversationChange | LegsChange | AttendanceChange | CallBackChange | MailboxChange

export interface JournalItem {
  epoch: string
  seq: number
  event: NumberedEvent | null
  /** A state from which the events that follow lead on, and when it was met (milliseconds since 1970). */
  begins?: { at: number, state: Snapshot }
  /** Events between `seq` and this one are lost for good; null: all that came after it in this run of the exchange. */
  gap?: { before: number | null, at: number }
  changes: Change[]
}

/** The journal begins, or begins again, with a state. */
export function beginning(state: ExchangeState, at: number): JournalItem {
  return {
    epoch: state.epoch, seq: state.seq, event: null,
    begins: { at, state: snapshotOf(state) },
    changes: [
      ...livingCalls(state, at), ...livingParkings(state), ...livingLegs(state), ...thereAtFirst(state, at), ...openPromises(state), ...keptMailboxes(state),
    ],
  }
}

/** What came after an event, up to another, is known to nobody any more. */
export function gapAfter({ epoch, seq }: Position, before: number | null, at: number): JournalItem {
  return { epoch, seq, event: null, gap: { before, at }, changes: [] }
}

const projections = [parkings, records, voicemail, blocks, conversations, legs, attendance, callBacks, mailboxes]

/** An event with the states before and after it. */
export interface Happened { event: NumberedEvent, before: ExchangeState, after: ExchangeState }

/** An event, and what follows from it. */
export function itemOf(event: NumberedEvent, before: ExchangeState, after: ExchangeState): JournalItem {
  return itemsOf([{ event, before, after }])[0]!
}

/** Events in their order, and what follows from them. Of rows that are written whole only the newest are made. */
export function itemsOf(happened: readonly Happened[]): JournalItem[] {
  const items = happened.map(({ event, after }): JournalItem => ({ epoch: after.epoch, seq: event.seq, event, changes: [] }))
  for (const { changes: changesOf, whole } of projections as Projection<Change>[]) {
    const made = new Set<string | null>()
    for (const [at, { event, before, after }] of [...happened.entries()].reverse()) {
      const rows = whole?.of(event) ?? []
      if (rows.length > 0 && rows.every(row => made.has(row))) continue
      const changes = changesOf(event, before, after)
      items[at]!.changes.push(...changes)
      for (const change of whole ? changes : []) made.add(whole!.row(change))
    }
  }
  return items
}

/**
 * Writes items: what happened, and everything that follows from it. What the journal has already, whoever wrote it, has had its effect: an event and what
 * follows from it are written in one transaction, and in their order. So nothing is done twice, however often it is told.
 * @param place of the run of the exchange that begins with them, among all that the journal has met: below 0 for one that is made up afterwards
 */
export async function writeItems(em: EntityManager, items: readonly JournalItem[], place: number | null = null): Promise<void> {
  const fresh = new Set<JournalItem>()
  for (const item of items) {
    const { epoch, seq, begins, gap } = item
    if (gap) await em.execute(insertGap, [epoch, seq, gap.before, new Date(gap.at)])
    if (!begins) continue
    const row = [epoch, seq, new Date(begins.at), eventVersion, JSON.stringify(begins.state)]
    const begun = await (place === null ? em.execute<unknown[]>(insertState, row) : em.execute<unknown[]>(insertStateAt, [...row, place]))
    if (begun.length > 0) fresh.add(item)
  }
  const entries = items.flatMap(({ epoch, event }) => event
    ? [{ epoch, seq: event.seq, at: new Date(event.at), type: event.type, call: 'call' in event ? event.call : null, event, version: eventVersion }]
    : [])
  const written = entries.length === 0 ? [] : await em.execute<{ epoch: string, seq: number }[]>(insertEvents, [JSON.stringify(entries)])
  const places = new Set(written.map(({ epoch, seq }) => `${epoch} ${seq}`))
  await writeChanges(em, items.filter(item => fresh.has(item) || (item.event !== null && places.has(`${item.epoch} ${item.seq}`))))
}

/** Writes what follows from items into the tables that are made from the journal. */
export async function writeChanges(em: EntityManager, items: readonly JournalItem[]): Promise<void> {
  const changes = items.flatMap(item => item.changes)
  const of = <C extends Change>(...kinds: C['kind'][]) => changes.filter((change): change is C => kinds.includes(change.kind))
  await parkings.write(em, of<ParkingChange>('parking'))
  await records.write(em, of<RecordChange>('record', 'lost'))
  await voicemail.write(em, of<VoiceChange>('voice'))
  await blocks.write(em, of<BlockChange>('block', 'unblock'))
  await conversations.write(em, of<ConversationChange>('conversation'))
  await legs.write(em, of<LegsChange>('legBegun', 'legWaited', 'legTalked', 'legsOver', 'legsLost'))
  await callBacks.write(em, of<CallBackChange>('callBack'))
  await mailboxes.write(em, of<MailboxChange>('mailbox'))
  await attendance.write(em, of<AttendanceChange>('attended', 'left', 'allLeft'))
}

const journalColumns = ['epoch', 'seq', 'at', 'type', 'call', 'event', 'version']
const insertEvents = `${insertRows('journal', journalColumns)} on conflict do nothing returning "epoch", "seq"`

const stateColumns = '"journal_state" ("epoch", "seq", "at", "version", "state"'
const insertState = `insert into ${stateColumns}) values (?, ?, ?, ?, ?::jsonb) on conflict do nothing returning 1`
const insertStateAt = `insert into ${stateColumns}, "position") overriding system value values (?, ?, ?, ?, ?::jsonb, ?) on conflict do nothing returning 1`
const insertGap = 'insert into "journal_gap" ("epoch", "after", "before", "at") values (?, ?, ?, ?) on conflict do nothing'
