import { figures, figuresQuery } from '~~/shared/figures'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { readReport } from '../../figures/report'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'What happened in a period: calls, waits, service levels, where calls went',
  mayAsk: { right: 'readFigures' },
  query: figuresQuery,
  answer: figures,
}, async ({ event, query }) => {
  const { orm, company, wallNow } = useRelay()
  const asked = { em: orm.em.fork(), company: company.current, now: wallNow, gone: () => event.node.res.closed }
  return (await fromDatabase(() => readReport(asked, query), muchAtOnce)) as NonNullable<Awaited<ReturnType<typeof readReport>>>
})
