import { decide } from '../core/calls/decide'
import { evolve } from '../core/calls/evolve'
import type { ExchangeState, NumberedEvent, Request } from '../core/calls/model'
import { indexDirectory, searchDirectory } from '../core/directory/search'
import { exchangeOf } from '../core/world/exchange'
import { merrowby } from '../core/world/merrowby'

/** What the pure computation costs: evolve, and a keystroke in the field. */

export function entriesOf(size: number) {
  const world = merrowby(size)
  const departments = new Map(world.departments.map(department => [department.id, department]))
  return world.people.map((person) => {
    const { name, site, handles } = departments.get(person.department)!
    return { ...person, departmentName: name, site, handles }
  })
}

/** A working morning as events: internal calls that ring, are answered, held, taken back and ended, `live` of them at a time. */
export function morning(size: number, live: number, length: number): { initial: ExchangeState, events: NumberedEvent[] } {
  const initial = exchangeOf(merrowby(size), { epoch: 'bench', now: 0 })
  let state = initial
  const events: NumberedEvent[] = []
  const ask = (request: Request) => {
    const decision = decide(state, request, events.length)
    if ('refusal' in decision) return
    for (const event of decision.events) {
      const numbered = { ...event, seq: state.seq + 1, at: events.length }
      state = evolve(state, numbered)
      events.push(numbered)
    }
  }
  const ids = Object.keys(initial.devices)
  for (let i = 0; events.length < length; i++) {
    const from = ids[(i * 2) % ids.length]!
    const to = ids[(i * 2 + 1) % ids.length]!
    ask({ service: 'makeCall', device: from, number: to })
    const call = `bench-${state.serial}`
    for (const service of ['answerCall', 'holdCall', 'retrieveCall'] as const) ask({ service, device: to, call })
    const oldest = Object.values(state.calls)
    if (oldest.length > live) ask({ service: 'clearConnection', device: oldest[0]!.calling, call: oldest[0]!.id })
  }
  return { initial, events }
}

export function evolveRate(size: number): { size: number, eventsPerSecond: number } {
  const { initial, events } = morning(size, Math.round(size / 10), 30_000)
  let state = initial
  const begin = process.hrtime.bigint()
  for (const event of events) state = evolve(state, event)
  const seconds = Number(process.hrtime.bigint() - begin) / 1e9
  return { size, eventsPerSecond: Math.round(events.length / seconds) }
}

export function keystroke(size: number): { size: number, medianMs: number, p95Ms: number, worstMs: number } {
  const entries = entriesOf(size)
  const index = indexDirectory(entries)
  const typed = entries.filter((_, at) => at % 37 === 0).flatMap(({ first, last, departmentName }) => [last, `${first} ${last}`, departmentName, 'lugage'])
    .flatMap(text => Array.from({ length: text.length }, (_, length) => text.slice(0, length + 1)))
  const times = typed.map((text) => {
    const begin = process.hrtime.bigint()
    searchDirectory(index, text, 24)
    return Number(process.hrtime.bigint() - begin) / 1e6
  }).sort((a, b) => a - b)
  const at = (part: number) => Number(times[Math.min(times.length - 1, Math.floor(times.length * part))]!.toFixed(3))
  return { size, medianMs: at(0.5), p95Ms: at(0.95), worstMs: at(1) }
}
