import { toCsv } from '~~/core/speed-keys/csv'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { pageFor } from '../../../speed-keys/pages'

export default defineEndpoint({
  summary: 'A page of speed keys as CSV (RFC 4180)',
  mayAsk: answering,
  params: withId,
  also: { 200: 'The page, as text/csv.', 404: 'There is no such page of keys.' },
}, async ({ event, person, params: { id } }) => {
  const { company, orm } = useRelay()
  const page = await fromDatabase(() => pageFor(orm.em.fork(), person.signIn, id))
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8; header=present')
  setResponseHeader(event, 'content-disposition', `attachment; filename="keys.csv"; filename*=UTF-8''${encodeURIComponent(page.name)}.csv`)
  return toCsv(company.current, page.keys) as never
})
