import type { Spoken } from '~~/words/phrase'
import type { ExchangeState } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import { type Parking, parkingOf, stay } from '~~/core/calls/parking/parkings'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** Every stay of a caller in a park slot: table `parking`. */

type Named = Parking & { names: Record<string, Spoken> }
export interface ParkingChange { kind: 'parking', parking: Named }

export const parkings: Projection<ParkingChange> = {
  changes(event, before, after) {
    const parking = 'call' in event ? parkingOf(event, before.calls.get(event.call), after.calls.get(event.call)) : null
    return parking ? [asRead(parking, after)] : []
  },

  async write(em, changes) {
    const { stays, ends } = paired(changes)
    const rows = [...ends.values()].map(({ end }) => parkingRow(end))
    const ended = rows.length === 0 ? [] : await em.execute<{ call: string }[]>(endParkings, [JSON.stringify(rows)])
    for (const { call } of ended) {
      stays.delete(ends.get(call)!.begun)
      ends.delete(call)
    }
    const others = [...ends.values()].filter(({ begun }) => !stays.has(begun)).map(({ end }) => end)
    const come = [...others, ...stays.values()]
    if (come.length > 0) await em.execute(insertParkings, [JSON.stringify(come.map(parkingRow))])
  },
}

/**
 * A stay begins, or the one that the call is in ends: the clock may have been set in between, so that only its call tells which it was. Who is parked already
 * may be told again.
 * @returns stays that begin here, by call and time, with their ends; and of each call the first end, which is that of a stay written before if there is one:
 *   then what `begun` names was only told again
 */
function paired(changes: readonly ParkingChange[]): { stays: Map<string, Named>, ends: Map<string, { end: Named, begun: string }> } {
  const stays = new Map<string, Named>()
  const ends = new Map<string, { end: Named, begun: string }>()
  const waiting = new Map<string, string>()
  for (const { parking } of changes) {
    const key = `${parking.call} ${parking.at}`
    const begun = waiting.get(parking.call)
    if (parking.end === 'waiting') {
      if (begun !== undefined || stays.has(key)) continue
      stays.set(key, parking)
      waiting.set(parking.call, key)
      continue
    }
    const isFirst = !ends.has(parking.call)
    if (isFirst) ends.set(parking.call, { end: parking, begun: begun ?? '' })
    if (begun !== undefined) {
      const stayed = stays.get(begun)!
      const { end, endedAt, takenBy, names } = parking
      stays.set(begun, { ...stayed, end, endedAt, takenBy, names: { ...stayed.names, ...names } })
      waiting.delete(parking.call)
    }
    else if (!isFirst && !stays.has(key)) stays.set(key, parking)
  }
  return { stays, ends }
}

/** Who is parked in a state with which the journal begins, or begins again. */
export function livingParkings(state: ExchangeState): ParkingChange[] {
  return [...state.calls.values()].filter(({ parked }) => parked).map(call => asRead(stay(call, 'waiting', null, null), state))
}

/** A stay with the times that people read, and the names that they know. */
function asRead(parking: Parking, state: ExchangeState): ParkingChange {
  const wall = (at: number) => at + state.clockOffset
  const { by, for: reserved, caller, takenBy, at, endedAt } = parking
  const names = namesOf(state, [by, reserved, caller, takenBy])
  return { kind: 'parking', parking: { ...parking, at: wall(at), endedAt: endedAt === null ? null : wall(endedAt), names } }
}

function namesOf(state: ExchangeState, devices: (string | null)[]): Record<string, Spoken> {
  return Object.fromEntries(devices.flatMap((device) => {
    const name = device && deviceName(state.company, device)
    return device && name ? [[device, name]] : []
  }))
}

/**
 * What an end once written says stays, whoever tells the stay again. `e`: the row with the end. Two stays of a call may end at one moment, that which has just
 * begun there and the one before: but not both in the same way.
 */
const ending = (e: string) => `"end" = ${e}."end", "ended_at" = ${e}."ended_at", "taken_by" = ${e}."taken_by", "names" = p."names" || ${e}."names"`
const untold = `not exists (
    select 1 from "parking" k where k."call" = e."call" and ((k."end" = 'waiting' and e."end" = 'waiting')
      or (k."ended_at" = e."ended_at" and (k."end", k."by", k."slot", k."taken_by") is not distinct from (e."end", e."by", e."slot", e."taken_by")))
  )`
const endParkings = `
  update "parking" p set ${ending('e')} from jsonb_populate_recordset(null::"parking", ?::jsonb) e
  where p."call" = e."call" and p."end" = 'waiting' and ${untold} returning p."call"`

const columns = ['call', 'slot', 'by', 'caller', 'end', 'names', 'for', 'at', 'ended_at', 'taken_by', 'number', 'name']
const insertParkings = `
  ${insertRows('parking', columns, 'p')} e
  where ${untold}
  on conflict ("call", "at") do update set ${ending('excluded')} where p."end" = 'waiting' and excluded."end" <> 'waiting'`

function parkingRow({ call, at, slot, by, for: reserved, caller, party, end, endedAt, takenBy, names }: Named): Record<string, unknown> {
  return {
    call, slot, by, caller, end, names, for: reserved,
    at: new Date(at), ended_at: endedAt === null ? null : new Date(endedAt), taken_by: takenBy,
    number: party?.number ?? null, name: party?.name ?? null,
  }
}
