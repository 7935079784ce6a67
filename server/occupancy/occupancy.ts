import { randomUUID } from 'node:crypto'
import type { EntityManager } from '@mikro-orm/postgresql'
import { readStays, type Stay } from '~~/core/occupancy/csv'
import type { Occupant } from '~~/shared/whereabouts'
import { spoken } from '~~/words/phrase'
import { whereaboutsChannel } from '../calendars/calendars'
import { fromDatabase } from '../database/away'
import { OccupancyEntity } from '../database/entities'
import { t } from '../language'
import { useRelay } from '../relay'
import { inTurn } from '../database/turns'
import { wrongInput } from '../validation/read'

/** Who is at which place; who was there is kept for a day. */

const day = 24 * 60 * 60_000
const batch = 500
const keyOf = ({ telephone, name }: { telephone: string, name: string }) => `${telephone} ${name}`

/**
 * @param field by which the list is named where something is wrong with it
 * @throws 422
 */
export async function takeList(csv: string, field: string): Promise<{ stays: number, unknown: string[] }> {
  const { company, orm, wallNow } = useRelay()
  const read = readStays(company.current, csv)
  if ('fault' in read) throw wrongInput(field, spoken(t, read.fault))
  await fromDatabase(() => takeStays(orm.em.fork(), read.stays, wallNow))
  return { stays: read.stays.length, unknown: read.unknown }
}

/**
 * Takes a list for the whole truth: whoever is on it stays or comes, everybody else has gone.
 * @param now milliseconds since 1970
 */
function takeStays(em: EntityManager, stays: readonly Stay[], now: number): Promise<void> {
  return inTurn(em, 'occupancy', async (tx) => {
    const at = new Date(now)
    const present = await tx.find(OccupancyEntity, { $or: [{ toAt: null }, { toAt: { $gt: at } }] })
    const wanted = new Map(stays.map(stay => [`${keyOf(stay)} ${stay.from ?? ''}`, stay]))
    const kept = new Set<string>()
    for (const row of present) {
      const stay = wanted.get(`${keyOf(row)} ${row.fromAt.getTime()}`) ?? wanted.get(`${keyOf(row)} `)
      if (stay) {
        row.toAt = stay.to === null ? null : new Date(stay.to)
        kept.add(`${keyOf(stay)} ${stay.from ?? ''}`)
      }
      // Who was only expected never came.
      else if (row.fromAt > at) tx.remove(row)
      else row.toAt = at
    }
    await tx.flush()
    const come = [...wanted].filter(([key]) => !kept.has(key))
      .map(([, { telephone, name, from, to }]) =>
        ({ id: randomUUID(), telephone, name, fromAt: new Date(from ?? now), toAt: to === null ? null : new Date(to) }))
    for (let first = 0; first < come.length; first += batch) await tx.insertMany(OccupancyEntity, come.slice(first, first + batch))
    await tx.execute('delete from occupancy where to_at < ?', [new Date(now - day)])
    await tx.execute('select pg_notify(?, ?)', [whereaboutsChannel, ''])
  })
}

/** Who is at a place, is expected there, or was there during the last day. */
export function occupants(em: EntityManager, now: number): Promise<Occupant[]> {
  return em.execute<Occupant[]>(
    `select telephone, name, (extract(epoch from from_at) * 1000)::float8 as "from", (extract(epoch from to_at) * 1000)::float8 as "to"
      from occupancy where to_at is null or to_at >= ? order by from_at, name, id`,
    [new Date(now - day)],
  )
}
