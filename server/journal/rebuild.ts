import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import { evolve } from '~~/core/calls/evolve'
import type { ExchangeState, NumberedEvent } from '~~/core/calls/model'
import { type Snapshot, stateOf } from '~~/core/calls/snapshot'
import { beginning, type Happened, itemsOf, type JournalItem, writeChanges } from './items'

const batchSize = 2_000
const schema = 'rebuilding'
const waysOfReadingAll = ['enable_seqscan', 'enable_hashjoin', 'enable_mergejoin']
const tables = ['call_record', 'parking', 'blocked_number', 'message', 'conversation', 'leg', 'attendance', 'call_back', 'mailbox'] as const

interface Epoch { epoch: string, seq: number, at: Date, state: Snapshot }

/** How far the journal has been read: for each epoch its state after the last event, and when the journal met it. */
interface Progress { readonly states: Map<string, ExchangeState>, readonly begun: Set<string>, events: number }

export interface Rebuilt { events: number, epochs: number }

/**
 * Makes call records, parkings, blocked numbers, promised call-backs, voicemail, greetings, conversations and what figures are made of again from the journal.
 * Calls and servers go on meanwhile: everything is made beside the tables in use, and takes their place at one moment, with what has come until then. What was
 * written before the journal kept its first states stays as it is, and so does what people have done with a message, and whose it is now.
 * @param orm connected as the role that owns the database
 */
export async function rebuild(orm: MikroORM): Promise<Rebuilt> {
  const em = orm.em.fork()
  await em.execute(`drop schema if exists "${schema}" cascade`)
  await em.execute(`create schema "${schema}"`)
  for (const table of tables) await em.execute(`create unlogged table "${schema}"."${table}" (like public."${table}" including all)`)
  // They are written to, and read once: only what a row is known by is kept in order.
  const indexes = await em.execute<{ name: string }[]>(
    `select indexrelid::regclass::text as name from pg_index
      where not indisunique and indrelid in (select oid from pg_class where relnamespace = ?::regnamespace)`,
    [schema],
  )
  for (const { name } of indexes) await em.execute(`drop index ${name}`)
  const progress: Progress = { states: new Map(), begun: new Set(), events: 0 }
  await em.transactional(tx => follow(tx, em, progress))
  await em.transactional(async (tx) => {
    // Servers wait for a moment with what they have to write: calls do not.
    await tx.execute(`lock table ${tables.map(table => `public."${table}"`).join(', ')} in share row exclusive mode`)
    await follow(tx, em, progress)
    for (const way of waysOfReadingAll) await tx.execute(`set local ${way} = on`)
    for (const statement of exchangeOfTables) await tx.execute(statement)
    await tx.execute(`drop schema "${schema}" cascade`)
  })
  return { events: progress.events, epochs: progress.states.size }
}

/**
 * Reads on in the journal from where the last reading ended, to its present end.
 * @param journal reads while `tx` writes what has been read before
 */
async function follow(tx: EntityManager, journal: EntityManager, progress: Progress): Promise<void> {
  await tx.execute(`set local search_path to "${schema}", public`)
  // Nobody has counted yet what stands in these tables: plans for empty ones would read all of them for each part.
  for (const way of waysOfReadingAll) await tx.execute(`set local ${way} = off`)
  const begins = await tx.execute<Epoch[]>('select epoch, seq, at, state from public.journal_state order by position')
  const aside = await itemsAside(tx)
  for (const [index, begin] of begins.entries()) {
    const key = `${begin.epoch} ${begin.seq}`
    if (!progress.begun.has(key)) {
      progress.begun.add(key)
      const state = stateOf(begin.state)
      progress.states.set(begin.epoch, state)
      await writeChanges(tx, [beginning(state, new Date(begin.at).getTime())])
    }
    // A later state of the same epoch stands after a gap.
    const until = begins.find((other, at) => at > index && other.epoch === begin.epoch)?.seq ?? Infinity
    await followEpoch(tx, journal, begin.epoch, until, progress, aside)
  }
}

async function followEpoch(
  tx: EntityManager,
  journal: EntityManager,
  epoch: string,
  until: number,
  progress: Progress,
  aside: ReadonlyMap<string, NumberedEvent>,
): Promise<void> {
  let writing = Promise.resolve()
  for (;;) {
    let state = progress.states.get(epoch)!
    const rows = await journal.execute<{ event: NumberedEvent }[]>('select event from public.journal where epoch = ? and seq > ? order by seq limit ?', [
      epoch,
      state.seq,
      batchSize,
    ])
    const happened: Happened[] = []
    for (const { event } of rows) {
      for (let missing = aside.get(`${epoch} ${state.seq + 1}`); missing && missing.seq < event.seq; missing = aside.get(`${epoch} ${state.seq + 1}`))
        state = evolve(state, missing)
      if (event.seq >= until) break
      const after = evolve(state, event)
      happened.push({ event, before: state, after })
      state = after
    }
    const items = itemsOf(happened)
    await writing
    if (items.length === 0) return
    progress.states.set(epoch, state)
    progress.events += items.length
    writing = writeChanges(tx, items)
    // It is waited for above, with whatever is wrong.
    writing.catch(() => {})
  }
}

/** Events that the database would not keep have happened all the same. */
async function itemsAside(tx: EntityManager): Promise<Map<string, NumberedEvent>> {
  const rows = await tx.execute<{ epoch: string, item: string }[]>('select epoch, item from public.set_aside')
  return new Map(rows.flatMap(({ epoch, item }) => {
    const { event } = JSON.parse(item) as JournalItem
    return event ? [[`${epoch} ${event.seq}`, event]] : []
  }))
}

/** Only what the journal tells from its beginning is replaced. */
const ofKnownEpochs = '(select distinct epoch from public.journal_state)'
const exchangeOfTables = [
  `delete from public.call_record where epoch in ${ofKnownEpochs}`,
  // Calls of an epoch from before may have ended with the beginning of one that is known.
  `insert into public.call_record select * from "${schema}".call_record on conflict do nothing`,
  `delete from public.parking where split_part(call, '-', 1) in ${ofKnownEpochs}`,
  `insert into public.parking select * from "${schema}".parking on conflict do nothing`,
  `delete from public.blocked_number where number in (select event->>'number' from public.journal where type in ('numberBlocked', 'numberUnblocked')
    and epoch in ${ofKnownEpochs})`,
  `insert into public.blocked_number select * from "${schema}".blocked_number on conflict do nothing`,
  `update "${schema}".message as made set (read_at, deleted_at, dealt_by, dealt_at, "to")
   = (kept.read_at, kept.deleted_at, kept.dealt_by, kept.dealt_at, kept."to") from public.message as kept where made.id = kept.id`,
  `delete from public.message where kind = 'voice' and split_part(id, '-', 2) in ${ofKnownEpochs}`,
  `insert into public.message select * from "${schema}".message on conflict do nothing`,
  `delete from public.conversation where split_part(call, '-', 1) in ${ofKnownEpochs}`,
  `insert into public.conversation select * from "${schema}".conversation on conflict do nothing`,
  `delete from public.mailbox where device in (select event->>'device' from public.journal
    where type in ('greetingChanged', 'mailboxKeyChanged', 'mailboxRestored') and epoch in ${ofKnownEpochs})`,
  `insert into public.mailbox select * from "${schema}".mailbox on conflict do nothing`,
  `delete from public.leg where epoch in ${ofKnownEpochs}`,
  `insert into public.leg select * from "${schema}".leg on conflict do nothing`,
  `delete from public.attendance where epoch in ${ofKnownEpochs}`,
  `delete from public.call_back where epoch in ${ofKnownEpochs}`,
  `insert into public.call_back select * from "${schema}".call_back on conflict do nothing`,
  `insert into public.attendance select * from "${schema}".attendance on conflict do nothing`,
]
