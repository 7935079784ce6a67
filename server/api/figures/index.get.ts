import { figures, figuresQuery } from '~~/shared/figures'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { askedBy } from '../../figures/asked'
import { readReport } from '../../figures/report'

export default defineEndpoint({
  summary: 'What happened in a period: calls, waits, service levels, where calls went',
  dear: true,
  mayAsk: { right: 'readFigures' },
  query: figuresQuery,
  answer: figures,
}, async ({ event, query }) => (await fromDatabase(() => readReport(askedBy(event), query), muchAtOnce)) as NonNullable<Awaited<ReturnType<typeof readReport>>>)
