import { figureTableQuery } from '~~/shared/figures'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { askedBy } from '../../figures/asked'
import { readReport } from '../../figures/report'
import { figureTable } from '../../figures/tables'

export default defineEndpoint({
  summary: 'A table of a report as CSV (RFC 4180)',
  dear: true,
  mayAsk: { right: 'readFigures' },
  query: figureTableQuery,
  also: { 200: 'The file, as text/csv.' },
}, async ({ event, query }) => {
  const asked = askedBy(event)
  const { serviceLevel, shortAbandon } = asked.company.settings
  const report = await fromDatabase(() => readReport(asked, query), muchAtOnce)
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8; header=present')
  setResponseHeader(event, 'content-disposition', `attachment; filename="${query.table}-${query.from}-${query.to}.csv"`)
  return (report && figureTable(report, query.table, { kind: serviceLevel, shortAbandon })) as never
})
