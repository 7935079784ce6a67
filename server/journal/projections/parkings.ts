import type { EntityManager } from '@mikro-orm/postgresql'
import type { ExchangeState } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import { type Parking, parkingOf } from '~~/core/calls/parkings'
import type { Projection } from './projection'

/** Every stay of a caller in a park slot: table `parking`. */

type Named = Parking & { names: Record<string, string> }
export interface ParkingChange { kind: 'parking', parking: Named }

export const parkings: Projection<ParkingChange> = {
  changes(event, before, after) {
    const parking = 'call' in event ? parkingOf(event, before.calls.get(event.call), after.calls.get(event.call)) : null
    if (!parking) return []
    const wall = (at: number) => at + after.clockOffset
    const { by, for: reserved, caller, takenBy } = parking
    return [
      {
        kind: 'parking',
        parking: {
          ...parking,
          at: wall(parking.at),
          endedAt: parking.endedAt === null ? null : wall(parking.endedAt),
          names: namesOf(after, [by, reserved, caller, takenBy]),
        },
      },
    ]
  },

  async write(em, changes) {
    for (const { parking } of changes) await writeParking(em, parking)
  },
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
  await em.execute(insertParking, [JSON.stringify(parkingRow(parking)), call, endedAt === null ? null : new Date(endedAt)])
}

const endParking = `
  update "parking" set "end" = ?, "ended_at" = ?, "taken_by" = ?, "names" = "names" || ?::jsonb where "call" = ? and "end" = 'waiting' returning 1`

const insertParking = `
  insert into "parking" select * from jsonb_populate_record(null::"parking", ?::jsonb)
  where not exists (select 1 from "parking" where "call" = ? and "ended_at" = ?) on conflict do nothing`

function parkingRow({ call, at, slot, by, for: reserved, caller, party, end, endedAt, takenBy, names }: Named): Record<string, unknown> {
  return {
    call, slot, by, caller, end, names, for: reserved,
    at: new Date(at), ended_at: endedAt === null ? null : new Date(endedAt), taken_by: takenBy,
    number: party?.number ?? null, name: party?.name ?? null,
  }
}
