import type { MikroORM } from '@mikro-orm/postgresql'
import type { Position } from '~~/shared/feed'
import { briefly, refusesContent } from '../database/away'
import { JournalEntry } from '../database/entities'
import type { Spill } from './spill'
import { type JournalItem, writeItems } from './items'

const largestBatch = 500
const pauseAfterFailure = 500
/** Events are gathered for this long (milliseconds) and written together; the exchange tells again what a killed server had gathered. */
const gathering = 60
/** More items than this (some 30 MB) go to a file. */
const mostInMemory = 20_000

/**
 * What happened after an event, of which the journal has kept nothing, in its order.
 * @param most so many items at once
 * @returns `all`: what happens from now on comes by itself
 */
export type AskAgain = (since: Position | undefined, most: number) => Promise<{ items: JournalItem[], all: boolean }>

/**
 * The last event of the run of the exchange that was written last before which none is missing: what was refused counts as written. Whoever begins to write
 * asks the exchange for all that comes after it.
 */
export async function lastPosition(orm: MikroORM): Promise<Position | undefined> {
  const em = orm.em.fork()
  const [latest] = await em.find(JournalEntry, {}, { orderBy: { at: 'desc', seq: 'desc' }, limit: 1 })
  if (!latest) return undefined
  const [last] = await em.execute<Position[]>(unbroken, [latest.epoch, latest.epoch, latest.epoch, latest.epoch])
  return last
}

const unbroken = `
  with known as (
    select seq from journal where epoch = ? union select seq from set_aside where epoch = ?
  ), begun as (select coalesce(max(seq), 0) as seq from journal_state where epoch = ?)
  select ? as epoch, seq from (select seq, lead(seq) over (order by seq) as next from known where seq > (select seq from begun)) as following
  where next is distinct from seq + 1 order by seq limit 1`

/**
 * Writes events, and what follows from them, to PostgreSQL, in order and together. Calls never wait for it: while the database is away it keeps
 * everything, and catches up afterwards. Writing twice is harmless, so several servers may write the same events.
 */
export class Journal {
  private queue: JournalItem[] = []
  /** The item in the queue that has the newest record of a call. */
  private readonly newest = new Map<string, JournalItem>()
  private writing = false
  private failing = false
  private closed = false
  private hurry = false
  private idle: (() => void)[] = []
  /** The last event that was taken: it is in memory, in the file, or written. */
  private taken: Position | undefined
  /** Neither memory nor disk had room for what came after it: the exchange is asked for it again. */
  private missing = false

  /**
   * @param written the last event before the first that is not in the database
   * @param askAgain for what could not be kept
   */
  constructor(
    private readonly orm: MikroORM,
    private readonly log: (text: string) => void,
    private readonly spill: Spill<JournalItem>,
    private readonly askAgain: AskAgain,
    written?: Position,
    private readonly roomInMemory = mostInMemory,
  ) {
    this.taken = written
    const left = spill.inherit()
    if (left.length > 0) log(`journal: ${left.length} events were left in a file by a server that is no more; they are written now`)
    this.add(left)
  }

  /** Events in memory that are not yet written. */
  get behind(): number {
    return this.queue.length
  }

  /** When the oldest of them happened, by the exchange's clock; null when there is none. */
  get oldest(): number | null {
    return this.queue.find(({ event }) => event !== null)?.event?.at ?? null
  }

  /** Bytes of events that lie in a file for want of memory. */
  get spilledBytes(): number {
    return this.spill.size
  }

  get healthy(): boolean {
    return !this.failing
  }

  /** True while something that has happened is kept nowhere here: only the exchange still knows it. */
  get losing(): boolean {
    return this.missing
  }

  /** Takes what has happened, in its order. */
  add(items: JournalItem[]): void {
    if (items.length === 0) return
    if (this.missing || (this.isFull(items.length) && !this.keepInFile(items))) this.missing = true
    else {
      if (!this.isFull(items.length)) this.keep(items)
      this.taken = placeOf(items.at(-1)!)
    }
    if (!this.writing) void this.write()
  }

  private isFull(more: number): boolean {
    return this.spill.size > 0 || this.queue.length + more > this.roomInMemory
  }

  /** Waits until everything so far is written, or the database is away. */
  async settle(): Promise<void> {
    this.hurry = true
    if (this.writing && !this.failing) await new Promise<void>(resolve => this.idle.push(resolve))
  }

  /** What is left in memory goes to the file, for the next server. */
  close(): void {
    this.closed = true
    if (this.queue.length > 0) this.keepInFile(this.queue.splice(0))
  }

  private keep(items: readonly JournalItem[]): void {
    for (const item of items) {
      this.queue.push(item)
      for (const change of item.changes) {
        if (change.kind !== 'record') continue
        // Only the newest replica of a call is of use.
        const older = this.newest.get(change.record.id)
        if (older && older !== item) older.changes = older.changes.filter(known => known.kind !== 'record' || known.record.id !== change.record.id)
        this.newest.set(change.record.id, item)
      }
    }
  }

  /** @returns false when there is no room on the disk either */
  private keepInFile(items: readonly JournalItem[]): boolean {
    if (this.spill.size === 0) this.log('journal: memory is full; events go to a file until the database is back')
    try {
      this.spill.add(items)
      return true
    }
    catch (error) {
      this.log(`journal: there is no room for events on the disk either (${briefly(error)}); the exchange is asked for them again when the database is back`)
      return false
    }
  }

  private async write(): Promise<void> {
    this.writing = true
    while (!this.closed) {
      if (this.queue.length === 0) this.keep(this.spill.take())
      if (this.queue.length === 0 && this.missing) await this.takeAgain()
      if (this.queue.length === 0 && this.missing) continue
      if (this.queue.length === 0) break
      if (this.queue.length < largestBatch && !this.hurry) await new Promise(resolve => setTimeout(resolve, gathering))
      const batch = this.nextBatch()
      try {
        await this.writeBatch(batch)
        this.forget(batch)
        if (this.failing) this.log(`journal: database is back, ${this.queue.length} events to catch up`)
        this.failing = false
      }
      catch (error) {
        if (!this.failing) this.log(`journal: database does not take events, keeping them: ${briefly(error)}`)
        this.failing = true
        for (const resolve of this.idle.splice(0)) resolve()
        await new Promise(resolve => setTimeout(resolve, pauseAfterFailure))
      }
    }
    this.writing = false
    this.hurry = false
    for (const resolve of this.idle.splice(0)) resolve()
  }

  /** Everything that was kept is written: what could not be kept comes from the exchange again, as much at a time as there is room for. */
  private async takeAgain(): Promise<void> {
    try {
      const { items, all } = await this.askAgain(this.taken, this.roomInMemory)
      this.keep(items)
      this.taken = items.length > 0 ? placeOf(items.at(-1)!) : this.taken
      this.missing = !all
      if (items.length > 0) this.log(`journal: ${items.length} events that had found no room were told by the exchange again`)
      else if (this.missing) await new Promise(resolve => setTimeout(resolve, pauseAfterFailure))
    }
    catch (error) {
      for (const resolve of this.idle.splice(0)) resolve()
      this.log(`journal: the exchange can't be asked for what is missing: ${briefly(error)}`)
      await new Promise(resolve => setTimeout(resolve, pauseAfterFailure))
    }
  }

  /** What closes lost calls stands at the end of its batch: it must not see what comes after it. */
  private nextBatch(): JournalItem[] {
    const batch = this.queue.slice(0, largestBatch)
    const closing = batch.findIndex(({ changes }) => changes.some(({ kind }) => kind === 'lost'))
    return closing < 0 ? batch : batch.slice(0, closing + 1)
  }

  private forget(batch: readonly JournalItem[]): void {
    this.queue = this.queue.slice(batch.length)
    for (const item of batch) {
      for (const change of item.changes) if (change.kind === 'record' && this.newest.get(change.record.id) === item) this.newest.delete(change.record.id)
    }
  }

  private async writeBatch(batch: readonly JournalItem[]): Promise<void> {
    try {
      await this.inTransaction(batch)
    }
    catch (error) {
      if (!refusesContent(error)) throw error
      // One of them can't be kept: it must not stop the others.
      for (const item of batch) await this.writeOne(item)
    }
  }

  private async writeOne(item: JournalItem): Promise<void> {
    try {
      await this.inTransaction([item])
    }
    catch (error) {
      if (!refusesContent(error)) throw error
      this.log(`journal: event ${item.seq} of ${item.epoch} was set aside: ${briefly(error)}`)
      // As text, JSON holds whatever the item holds.
      await this.orm.em
        .fork()
        .execute('insert into set_aside (epoch, seq, at, reason, item) values (?, ?, now(), ?, ?) on conflict do nothing', [
          item.epoch,
          item.seq,
          reasonOf(error),
          JSON.stringify(item),
        ])
    }
  }

  private inTransaction(items: readonly JournalItem[]): Promise<void> {
    return this.orm.em.fork().transactional(em => writeItems(em, items))
  }
}

function reasonOf(error: unknown): string {
  return `The database refused it (${briefly(error)}).`
}

function placeOf({ epoch, seq }: JournalItem): Position {
  return { epoch, seq }
}
