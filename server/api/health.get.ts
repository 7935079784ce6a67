import { useRelay } from '../relay'

const patience = 1_500

/** The state of database and exchange and the last event number; 200 when all is well, else 503. Open to everybody: it tells nothing of calls. */
export default defineEventHandler(async (event) => {
  const { link, journal, orm, replica } = useRelay()
  const database = journal.healthy && await answers(() => orm.em.fork().execute('select 1'))
  const exchange = (link?.up ?? false) && (replica.state?.company.version ?? 0) > 0
  const well = database && exchange
  setResponseStatus(event, well ? 200 : 503)
  return {
    status: well ? 'ok' : 'degraded',
    database: { up: database, journalBehind: journal.behind, journalSpilledBytes: journal.spilledBytes },
    exchange: { up: exchange, epoch: replica.state?.epoch ?? null },
    lastEvent: replica.state?.seq ?? 0,
  }
})

async function answers(query: () => Promise<unknown>): Promise<boolean> {
  return await Promise.race([
    query().then(() => true, () => false),
    new Promise<boolean>(resolve => setTimeout(() => resolve(false), patience)),
  ])
}
