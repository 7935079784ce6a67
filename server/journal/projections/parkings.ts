import type { EntityManager } from '@mikro-orm/postgresql'
import type { ExchangeState } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import { type Parking, parkingOf, stay } from '~~/core/calls/parkings'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** Every stay of a caller in a park slot: table `parking`. */

type Named = Parking & { names: Record<string, string> }
export interface ParkingChange { kind: 'parking', parking: Named }

export const parkings: Projection<ParkingChange> = {
  changes(event, before, after) {
    const parking = 'call' in event ? parkingOf(event, before.calls.get(event.call), after.calls.get(event.call)) : null
    return parking ? [asRead(parking, after)] : []
  },

  async write(em, changes) {
    for (const { parking } of changes) await writeParking(em, parking)
  },
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

function namesOf(state: ExchangeState, devices: (string | null)[]): Record<string, string> {
  return Object.fromEntries(devices.flatMap((device) => {
    const name = device && deviceName(state.company, device)
    return device && name ? [[device, name]] : []
  }))
}

/**
 * A stay begins, or the one that the call is in ends: the clock may have been set in between, so that only its call tells which it was.
 * An end once written stays, whoever tells the stay again.
 */
async function writeParking(em: EntityManager, parking: Named): Promise<void> {
  const { call, end, endedAt, takenBy, names } = parking
  if (end !== 'waiting') {
    const ended = await em.execute<unknown[]>(endParking, [end, new Date(endedAt!), takenBy, JSON.stringify(names), call])
    if (ended.length > 0) return
  }
  await em.execute(insertParking, [JSON.stringify([parkingRow(parking)]), call, endedAt === null ? null : new Date(endedAt)])
}

const endParking = `
  update "parking" set "end" = ?, "ended_at" = ?, "taken_by" = ?, "names" = "names" || ?::jsonb where "call" = ? and "end" = 'waiting' returning 1`

const columns = ['call', 'slot', 'by', 'caller', 'end', 'names', 'for', 'at', 'ended_at', 'taken_by', 'number', 'name']
const insertParking = `
  ${insertRows('parking', columns)}
  where not exists (select 1 from "parking" where "call" = ? and "ended_at" = ?) on conflict do nothing`

function parkingRow({ call, at, slot, by, for: reserved, caller, party, end, endedAt, takenBy, names }: Named): Record<string, unknown> {
  return {
    call, slot, by, caller, end, names, for: reserved,
    at: new Date(at), ended_at: endedAt === null ? null : new Date(endedAt), taken_by: takenBy,
    number: party?.number ?? null, name: party?.name ?? null,
  }
}
