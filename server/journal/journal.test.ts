import { mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MikroORM } from '@mikro-orm/postgresql'
import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
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
        await work({ execute: async (_: string, [json]: [string]) => kept.push(...(JSON.parse(json) as { seq: number }[]).map(({ seq }) => seq)) })
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

describe('the journal', () => {
  it('sets aside what the database will not have, keeps everything else in order, and says nothing of what was in it', async () => {
    const shelf = new Shelf()
    const said: string[] = []
    const journal = new Journal(shelf.orm, text => said.push(text), new Spill(folder, process.pid))
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
    const journal = new Journal(shelf.orm, () => {}, new Spill(folder, process.pid), 50)
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
    const journal = new Journal(shelf.orm, () => {}, new Spill(folder, nobodysPid))
    journal.add(items(4, 5))
    await expect.poll(() => journal.healthy).toBe(false)
    journal.close()
    shelf.away = false
    await new Journal(shelf.orm, () => {}, new Spill(folder, process.pid)).settle()
    expect(shelf.kept).toEqual([4, 5, 6, 7, 8])
  })
})
