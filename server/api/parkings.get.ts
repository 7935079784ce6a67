import type { ParkingEnd } from '~~/core/calls/parking/parkings'
import { parkingPage, parkingQuery } from '~~/shared/log'
import { fromDatabase } from '../database/away'
import { ParkingEntity } from '../database/entities'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'The history of parkings, newest first: who, where, for whom, how long, and how it ended',
  mayAsk: { right: 'readParkings' },
  query: parkingQuery,
  answer: parkingPage,
}, async ({ query: { limit, before } }) => {
  const where = before ? { at: { $lt: new Date(before) } } : {}
  const rows = await fromDatabase(() => useRelay().orm.em.fork().find(ParkingEntity, where, { orderBy: { at: 'desc' }, limit }))
  return {
    rows: rows.map(({ call, at, slot, by, for: reserved, caller, number, name, end, endedAt, takenBy, names }) => ({
      call, slot, by, caller, names, for: reserved ?? null, number: number ?? null, name: name ?? null, takenBy: takenBy ?? null,
      end: end as ParkingEnd, at: at.getTime(), endedAt: endedAt?.getTime() ?? null,
    })),
  }
})
