import type { ParkingEnd } from '~~/core/calls/parkings'
import { type ParkingPage, parkingQuery } from '~~/shared/log'
import { requirePerson } from '../accounts/session'
import { fromDatabase } from '../database/away'
import { ParkingEntity } from '../database/entities'
import { useRelay } from '../relay'
import { readQuery } from '../validation/read'

/** The history of parkings, newest first: who, where, for whom, how long, and how it ended. */
export default defineEventHandler(async (event): Promise<ParkingPage> => {
  await requirePerson(event, 'operator', 'supervisor', 'administrator')
  const { limit, before } = readQuery(event, parkingQuery)
  const { orm } = useRelay()
  const where = before ? { at: { $lt: new Date(before) } } : {}
  const rows = await fromDatabase(() => orm.em.fork().find(ParkingEntity, where, { orderBy: { at: 'desc' }, limit }))
  return {
    rows: rows.map(({ call, at, slot, by, for: reserved, caller, number, name, end, endedAt, takenBy, names }) => ({
      call, slot, by, caller, names, for: reserved ?? null, number: number ?? null, name: name ?? null, takenBy: takenBy ?? null,
      end: end as ParkingEnd, at: at.getTime(), endedAt: endedAt?.getTime() ?? null,
    })),
  }
})
