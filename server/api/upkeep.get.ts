import type { Upkeep } from '~~/shared/people'
import { requirePerson } from '../accounts/session'
import { fromDatabase } from '../database/away'
import { SetAside } from '../database/entities'
import { useRelay } from '../relay'

const shown = 100

/** How database, exchange and journal are, and what the database would not keep. */
export default defineEventHandler(async (event): Promise<Upkeep> => {
  await requirePerson(event, 'administrator')
  const { orm, journal, link } = useRelay()
  const rows = await fromDatabase(() => orm.em.fork().find(SetAside, {}, { orderBy: { at: 'desc' }, limit: shown }))
  return {
    database: journal.healthy,
    exchange: link?.up ?? false,
    journal: { behind: journal.behind, spilledBytes: journal.spilledBytes },
    setAside: rows.map(({ epoch, seq, at, reason, item }) => ({ epoch, seq, at: at.getTime(), reason, item })),
  }
})
