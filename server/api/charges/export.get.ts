import { chargesQuery } from '~~/shared/charges'
import { chargesTable } from '../../charges/charges'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'The same as CSV (RFC 4180), the newest first',
  dear: true,
  mayAsk: { right: 'keepCharges' },
  query: chargesQuery,
  also: { 200: 'The file, as text/csv.' },
}, async ({ event, query }) => {
  const { orm, company } = useRelay()
  const text = await fromDatabase(() => chargesTable(orm.em.fork(), query, company.current), muchAtOnce)
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8; header=present')
  setResponseHeader(event, 'content-disposition', `attachment; filename="charges-${query.from}-${query.to}.csv"`)
  return text as never
})
