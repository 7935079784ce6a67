import { appendFileSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MikroORM } from '@mikro-orm/postgresql'
import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { evolveAll, numbered } from '~~/core/calls/evolve'
import type { ExchangeState, NumberedEvent } from '~~/core/calls/model'
import { snapshotOf } from '~~/core/calls/snapshot'
import type { Position } from '~~/shared/feed'
import { Tryout } from '~~/core/calls/tryout'
import type { History } from '../exchange-link/link'
import { missedItems } from './again'
import { Journal } from './journal'
import { Spill } from './spill'
import type { JournalItem } from './items'

let folder: string

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'estafette-test-'))
})

afterEach(() => rmSync(folder, { recursive: true, force: true }))

describe('a file for what has no room in memory', () => {
  it('gives back what was put in, in order, whatever is in it, and is gone when it is empty', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ unit: 'binary', maxLength: 40 }), { maxLength: 30 }), { maxLength: 8 }),
        fc.nat({ max: 3 }),
        (batches, takes) => {
          const spill = new Spill<string>(folder, process.pid)
          const out: string[] = []
          for (const batch of batches) {
            spill.add(batch)
            for (let i = 0; i < takes; i++) out.push(...spill.take())
          }
          for (let more = spill.take(); more.length > 0; more = spill.take()) out.push(...more)
          expect(out).toEqual(batches.flat())
          expect(spill.size).toBe(0)
          expect(readdirSync(folder)).toEqual([])
        },
      ),
      { numRuns: 60 },
    )
  })

  it('is readable by nobody else, and is taken over from a server that is no more', () => {
    const nobodysPid = 4_194_300
    const left = new Spill<number>(join(folder, 'deep'), nobodysPid)
    left.add([1, 2, 3])
    const [file] = readdirSync(join(folder, 'deep'))
    expect(statSync(join(folder, 'deep', file!)).mode & 0o777).toBe(0o600)
    writeFileSync(join(folder, 'deep', `journal-${nobodysPid - 1}.jsonl`), '4\n{"cut off in the mid')
    writeFileSync(join(folder, 'deep', `journal-${process.pid}.jsonl`), '5\n')
    const next = new Spill<number>(join(folder, 'deep'), process.pid)
    expect(next.inherit().sort()).toEqual([1, 2, 3, 4, 5])
    expect(next.inherit()).toEqual([])
  })
})

/** A database that keeps events in memory, can be away, and has values it will not have. */
class Shelf {
  away = false
  readonly kept: number[] = []
  readonly aside: number[] = []

  get orm(): MikroORM {
    const em = {
      fork: () => em,
      transactional: async (work: (em: unknown) => Promise<void>) => {
        if (this.away) throw Object.assign(new Error('secret text'), { code: 'ECONNREFUSED' })
        const kept: number[] = []
        await work({ execute: async (_: string, [json]: [string]) => {
          const events = JSON.parse(json) as { epoch: string, seq: number }[]
          kept.push(...events.map(({ seq }) => seq))
          return events
        } })
        if (kept.some(seq => seq % 10 === 3)) throw Object.assign(new Error('secret text'), { code: '22P05' })
        for (const seq of kept) if (!this.kept.includes(seq)) this.kept.push(seq)
      },
      execute: async (_: string, [, seq]: [string, number]) => { this.aside.push(seq) },
    }
    return { em } as unknown as MikroORM
  }
}

function items(from: number, count: number): JournalItem[] {
  return Array.from({ length: count }, (_, index) => ({ epoch: 'e', seq: from + index, event: { type: 'concealed', seq: from + index, at: 0 }, changes: [] }))
}

const nothingAgain = () => Promise.resolve({ items: [], all: true })

describe('the journal', () => {
  it('sets aside what the database will not have, keeps everything else in order, and says nothing of what was in it', async () => {
    const shelf = new Shelf()
    const said: string[] = []
    const journal = new Journal(shelf.orm, text => said.push(text), new Spill(folder, process.pid), nothingAgain)
    journal.add(items(1, 40))
    await journal.settle()
    expect(shelf.kept).toEqual(Array.from({ length: 40 }, (_, index) => index + 1).filter(seq => seq % 10 !== 3))
    expect(shelf.aside).toEqual([3, 13, 23, 33])
    expect(journal).toMatchObject({ healthy: true, behind: 0 })
    expect(said.join()).not.toContain('secret')
    expect(said.join()).toContain('SQLSTATE 22P05')
  })

  it('away for long it fills a file, not the memory, and writes everything when the database is back', async () => {
    const shelf = new Shelf()
    shelf.away = true
    const journal = new Journal(shelf.orm, () => {}, new Spill(folder, process.pid), nothingAgain, undefined, 50)
    for (let i = 0; i < 20; i++) journal.add(items(1 + i * 20, 20).filter(({ seq }) => seq % 10 !== 3))
    await expect.poll(() => journal.healthy).toBe(false)
    expect(journal.behind).toBeLessThanOrEqual(50)
    expect(journal.spilledBytes).toBeGreaterThan(1_000)
    shelf.away = false
    await expect.poll(() => shelf.kept.length, { timeout: 5_000 }).toBe(360)
    expect(shelf.kept).toEqual([...shelf.kept].sort((a, b) => a - b))
    expect(journal.spilledBytes).toBe(0)
  })

  it('stopped while the database is away it leaves what it has to the next one', async () => {
    const shelf = new Shelf()
    shelf.away = true
    const nobodysPid = 4_194_301
    const journal = new Journal(shelf.orm, () => {}, new Spill(folder, nobodysPid), nothingAgain)
    journal.add(items(4, 5))
    await expect.poll(() => journal.healthy).toBe(false)
    journal.close()
    shelf.away = false
    await new Journal(shelf.orm, () => {}, new Spill(folder, process.pid), nothingAgain).settle()
    expect(shelf.kept).toEqual([4, 5, 6, 7, 8])
  })

  it('with no room left in memory or on the disk loses nothing: it asks again for what it could not keep, and says meanwhile that it must', async () => {
    const shelf = new Shelf()
    shelf.away = true
    const happened = items(1, 400).filter(({ seq }) => seq % 10 !== 3)
    let full = true
    class SmallDisk extends Spill<JournalItem> {
      override add(values: readonly JournalItem[]): void {
        if (full) throw Object.assign(new Error('no space left'), { code: 'ENOSPC' })
        super.add(values)
      }
    }
    const said: string[] = []
    const asked: (number | undefined)[] = []
    const journal = new Journal(shelf.orm, text => said.push(text), new SmallDisk(folder, process.pid), async (since, most) => {
      asked.push(since?.seq)
      const more = happened.filter(({ seq }) => seq > (since?.seq ?? 0)).slice(0, most)
      return { items: more, all: more.at(-1) === happened.at(-1) }
    }, undefined, 50)
    for (let i = 0; i < happened.length; i += 20) journal.add(happened.slice(i, i + 20))
    expect(journal.losing).toBe(true)
    await expect.poll(() => journal.healthy).toBe(false)
    shelf.away = full = false
    await expect.poll(() => shelf.kept.length, { timeout: 5_000 }).toBe(360)
    expect(shelf.kept).toEqual([...shelf.kept].sort((a, b) => a - b))
    // As much at a time as there is room for, from where it could keep no more.
    expect(asked[0]).toBe(happened[39]!.seq)
    expect(asked.length).toBeGreaterThan(5)
    expect(journal.losing).toBe(false)
    expect(said.join()).toContain('no room for events on the disk either (ENOSPC)')
    const next = items(401, 1)
    journal.add(next)
    await expect.poll(() => shelf.kept.at(-1)).toBe(401)
  })
})

describe('a disk that is full', () => {
  it('takes half a line, and nothing is lost of what was there and what comes when there is room again', () => {
    const spill = new Spill<string>(folder, process.pid)
    spill.add(['first', 'second'])
    // What a write that failed in the middle leaves behind.
    appendFileSync(join(folder, readdirSync(folder)[0]!), '"half of a li')
    spill.add(['third'])
    expect([...spill.take(), ...spill.take()]).toEqual(['first', 'second', 'third'])
  })
})

describe('what was missed', () => {
  const quiet = new Tryout().state
  const events: NumberedEvent[] = []
  const exchange = Array.from({ length: 300 }).reduce<ExchangeState>((state, _, turn) => {
    const happened = numbered(state, [{ type: 'doNotDisturb', device: 't2105', on: turn % 2 === 0, by: null, until: null }], state.time)
    events.push(...happened)
    return evolveAll(state, happened)
  }, quiet)
  const { epoch, seq } = exchange
  /** The exchange knows everything from its beginning. */
  const told = (since: Position): History => ({ state: snapshotOf(quiet), events, complete: since.epoch === epoch || since.seq === 0 })
  const numbers = (list: JournalItem[]) => list.flatMap(({ event }) => event ? [event.seq] : [])

  it('is every event after the last one kept, up to what is known anyway', () => {
    const since = { epoch, seq: 120 }
    const { items: missed, all } = missedItems(told(since), since, 1, { ...exchange, seq: 290 }, 1_000)
    expect(numbers(missed)).toEqual(Array.from({ length: 170 }, (_, index) => 121 + index))
    expect(missed.some(({ begins, gap }) => begins || gap)).toBe(false)
    expect(all).toBe(true)
    const part = missedItems(told(since), since, 1, exchange, 10)
    expect([numbers(part.items).length, part.all]).toEqual([10, false])
    expect(missedItems(told({ epoch, seq }), { epoch, seq }, 1, exchange, 10)).toEqual({ items: [], all: true })
  })

  it('by an exchange that has begun anew, or knows no longer: a gap, and a new beginning', () => {
    const gone = { epoch: 'before', seq: 44 }
    const { items: [gap, begins, ...rest] } = missedItems(told(gone), gone, 7, exchange, 1_000)
    expect(gap).toMatchObject({ epoch: 'before', seq: 44, gap: { before: null, at: 7 } })
    expect(begins).toMatchObject({ epoch, seq: 0, begins: { at: 7 } })
    expect(numbers(rest)).toHaveLength(seq)
    const there = evolveAll(quiet, events.slice(0, 250))
    const forgotten = { state: snapshotOf(there), events: events.slice(250), complete: false }
    const later = missedItems(forgotten, { epoch, seq: 100 }, 7, exchange, 1_000)
    expect(later.items[0]).toMatchObject({ epoch, seq: 100, gap: { before: 251 } })
    expect(numbers(later.items)[0]).toBe(251)
  })
})
