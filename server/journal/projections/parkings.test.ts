import fc from 'fast-check'
import { expect, it } from 'vitest'
import { evolve } from '../../../core/calls/evolve'
import type { Request } from '../../../core/calls/model'
import { begin, carryOut, requestOf, start, waitOf, type wish, wish as anyWish } from '../../../core/calls/wishes'
import { ownDatabase } from '../../../tests/database/own'
import { livingParkings, type ParkingChange, parkings } from './parkings'

const own = ownDatabase()
type Wish = typeof wish extends fc.Arbitrary<infer W> ? W : never

/** What happens in the slots while people wish for this and that; now and then the journal begins anew and tells who is parked. */
function changesOf(wishes: readonly Wish[]): ParkingChange[] {
  let state = begin('slots')
  let now = start
  const changes: ParkingChange[] = []
  for (const [index, wanted] of wishes.entries()) {
    // A stay is known by its call and the millisecond in which it began: nobody parks one caller twice in the same.
    now += wanted.kind === 'wait' ? waitOf(wanted) : 1
    const request = requestOf(state, wanted)
    for (const event of request ? carryOut(state, request, now).events : []) {
      const before = state
      state = evolve(state, event)
      changes.push(...parkings.changes(event, before, state))
    }
    if (index % 30 === 29) changes.push(...livingParkings(state))
  }
  return changes
}

async function rowsAfter(changes: readonly ParkingChange[], atOnce: number): Promise<object[]> {
  await own.sql('delete from parking')
  for (let at = 0; at < changes.length; at += atOnce) await parkings.write(own.orm.em.fork(), changes.slice(at, at + atOnce))
  return own.sql('select * from parking order by call, at')
}

it('a stay that ends in the moment in which it began, and in which the one before ended, does not wait for ever', async () => {
  let state = begin('slots')
  let now = start
  const changes: ParkingChange[] = []
  const ask = (request: Request) => {
    for (const event of carryOut(state, request, now).events) {
      const before = state
      state = evolve(state, event)
      changes.push(...parkings.changes(event, before, state))
    }
  }
  ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900001', name: null }, number: '+441632960000' })
  const [call, { calling }] = [...state.calls][0]!
  ask({ service: 'answerCall', device: 't2100', call })
  ask({ service: 'parkCall', device: 't2100', call, slot: 'slot:1', for: null })
  now += 60_000
  ask({ service: 'directedPickupCall', device: 't2101', call })
  ask({ service: 'parkCall', device: 't2101', call, slot: 'slot:1', for: null })
  ask({ service: 'clearConnection', device: calling, call })
  expect(changes.map(({ parking: { end } }) => end)).toEqual(['waiting', 'taken', 'waiting', 'gaveUp'])
  for (const atOnce of [1, 2, 3, 4])
    expect((await rowsAfter(changes, atOnce)).map(row => (row as { end: string }).end), `${atOnce} at once`).toEqual(['taken', 'gaveUp'])
})

it('stays in slots are the same however many of their changes are written at once, and written again', async () => {
  let stays = 0
  const wishes = fc.array(anyWish, { minLength: 150, maxLength: 300, size: 'max' })
  await fc.assert(fc.asyncProperty(wishes, fc.integer({ min: 2, max: 12 }), async (wishes, some) => {
    const changes = changesOf(wishes)
    const rows = await rowsAfter(changes, 1)
    stays += rows.length
    for (const atOnce of [some, Infinity]) expect(await rowsAfter(changes, atOnce), `${atOnce} at once`).toEqual(rows)
    const last = changes.filter(({ parking }) => parking.end !== 'waiting').slice(-2)
    await parkings.write(own.orm.em.fork(), last)
    expect(await own.sql('select * from parking order by call, at')).toEqual(rows)
  }), { numRuns: 12, endOnFailure: true })
  expect(stays).toBeGreaterThan(3)
})
