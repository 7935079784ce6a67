import { ready } from '~~/shared/people'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

const patience = 1_500

export default defineEndpoint({
  summary: 'Whether calls can be answered here: the state of database, schema and exchange, and the last event number; it tells nothing of calls',
  mayAsk: 'everybody',
  answer: ready,
  also: { 503: 'Something is away: the body says what, in the shape of the answer when all is well.' },
}, async ({ event }) => {
  const { link, journal, orm, replica } = useRelay()
  const database = journal.healthy && await answers(() => orm.em.fork().execute('select 1'))
  const exchange = (link?.up ?? false) && (replica.state?.company.version ?? 0) > 0
  const well = database && exchange && !journal.losing
  setResponseStatus(event, well ? 200 : 503)
  return {
    status: well ? 'ok' as const : 'degraded' as const,
    database: { up: database, journalBehind: journal.behind, journalSpilledBytes: journal.spilledBytes, journalLosing: journal.losing },
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
