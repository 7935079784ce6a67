import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { decide } from '../core/calls/decide'
import { evolve, numbered } from '../core/calls/evolve'
import type { ExchangeState, Request } from '../core/calls/model'
import { quietState } from '../core/calls/snapshot'
import { merrowby } from '../demo/company/merrowby'
import { firstNames, lastNames } from '../demo/company/names'
import { connectDatabase } from '../server/database/orm'
import { beginning, itemOf, type JournalItem } from '../server/journal/items'
import { Journal } from '../server/journal/journal'
import { readLog } from '../server/journal/log'
import { rebuild } from '../server/journal/rebuild'
import { Spill } from '../server/journal/spill'
import { logQuery } from '../shared/log'

/** As many events wait for the database at most; an exchange waits for nobody, but a bench must not measure its own memory. */
const mostWaiting = 5_000
const people = 2_000

/**
 * A day of calls through journal and projections, and all of it made again from the journal.
 * @param serverUrl the database as the server sees it; @param ownerUrl as the role that owns it
 */
export async function day(serverUrl: string, ownerUrl: string, calls: number) {
  const orm = await connectDatabase(serverUrl)
  const spill = new Spill<JournalItem>(join(tmpdir(), 'estafette-bench'), process.pid)
  const journal = new Journal(orm, () => {}, spill, () => Promise.resolve({ items: [], all: true }))
  let now = Date.UTC(2031, 4, 12, 6)
  let state = quietState(merrowby(people), { epoch: 'day', now, attended: ['t2100', 't2101', 't2102'] })
  let events = 0
  journal.add([beginning(state, now)])
  const ask = (request: Request): JournalItem[] => {
    const decision = decide(state, request, now)
    if ('refusal' in decision) return []
    return numbered(state, decision.events, now).map((event) => {
      const before: ExchangeState = state
      state = evolve(state, event)
      events++
      return itemOf(event, before, state)
    })
  }
  const begin = performance.now()
  for (let index = 0; index < calls; index++) {
    now += 140
    journal.add(oneCall(index, () => state, ask))
    if (journal.behind > mostWaiting) await journal.settle()
  }
  await journal.settle()
  const seconds = (performance.now() - begin) / 1_000
  journal.close()
  const [{ size }] = await orm.em.fork().execute<[{ size: string }]>('select pg_database_size(current_database()) as size')
  const log = await logFigures(orm)
  await orm.close(true)
  const owner = await connectDatabase(ownerUrl, { query: 0 })
  const again = performance.now()
  await rebuild(owner)
  const rebuildSeconds = (performance.now() - again) / 1_000
  await owner.close(true)
  return {
    calls, events, seconds: Math.round(seconds), rowsPerSecond: Math.round(events / seconds), databaseMb: Math.round(Number(size) / 1024 ** 2),
    rebuildSeconds: Math.round(rebuildSeconds), rebuiltPerSecond: Math.round(events / rebuildSeconds), log,
  }
}

/** A call comes in, is answered, and passed on to somebody who answers; every tenth is parked meanwhile. */
function oneCall(index: number, state: () => ExchangeState, ask: (request: Request) => JournalItem[]): JournalItem[] {
  const number = `+447700900${String(index % 1_000).padStart(3, '0')}`
  const items = ask({ service: 'offerCall', trunk: 'east', party: { number, name: nameOf(index) }, number: '+441632960000' })
  const call = [...state().calls.keys()].at(-1)
  if (call === undefined) return items
  const operator = `t${2100 + index % 3}`
  const colleague = `t${2110 + index % (people - 20)}`
  items.push(...ask({ service: 'answerCall', device: operator, call }))
  if (index % 10 === 0) {
    items.push(...ask({ service: 'parkCall', device: operator, call, slot: null, for: null }))
    items.push(...ask({ service: 'directedPickupCall', device: operator, call }))
  }
  items.push(...ask({ service: 'singleStepTransferCall', device: operator, call, to: colleague }), ...ask({ service: 'answerCall', device: colleague, call }))
  return [...items, ...ask({ service: 'clearConnection', device: colleague, call }), ...ask({ service: 'clearConnection', device: operator, call })]
}

/** Some forty thousand names: most people of a day call once. */
function nameOf(index: number): string {
  return `${firstNames[index % firstNames.length]} ${lastNames[Math.floor(index / firstNames.length) % lastNames.length]} ${index % 97}`
}

/** Milliseconds for a page of the log, by what is asked: the median and the worst of twenty. */
async function logFigures(orm: Awaited<ReturnType<typeof connectDatabase>>) {
  const begin = Date.UTC(2031, 4, 12, 6)
  const questions = {
    newest: {}, name: { text: nameOf(12_345) }, partOfName: { text: lastNames[3]!.slice(1, 5) }, twoLetters: { text: 'qu' }, nobody: { text: 'zzyzx' },
    number: { number: '+447700900123' }, lineAndHour: { line: 'general', from: begin + 3_600_000, until: begin + 7_200_000 },
    missed: { kind: 'missed' }, outcome: { outcome: 'gaveUp' }, oldest: { before: `${begin + 60_000}~x` },
  }
  const figures: Record<string, { medianMs: number, worstMs: number }> = {}
  for (const [what, question] of Object.entries(questions)) {
    const times: number[] = []
    for (let i = 0; i < 20; i++) {
      const started = performance.now()
      await readLog(orm.em.fork(), { device: 't2100', role: 'operator' }, logQuery.validateSync(question))
      times.push(performance.now() - started)
    }
    times.sort((a, b) => a - b)
    figures[what] = { medianMs: Math.round(times[10]!), worstMs: Math.round(times[19]!) }
  }
  return figures
}
