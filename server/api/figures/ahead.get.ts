import { ahead, aheadQuery } from '~~/shared/figures'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { readAhead } from '../../figures/ahead'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'How many calls the coming half-hours bring to a queue, and how sure that is',
  mayAsk: { right: 'readFigures' },
  query: aheadQuery,
  answer: ahead,
  also: { 404: 'There is no such queue.' },
}, ({ event, query }) => {
  const { orm, company, wallNow } = useRelay()
  const asked = { em: orm.em.fork(), company: company.current, now: wallNow, gone: () => event.node.res.closed }
  return fromDatabase(() => readAhead(asked, query.queue), muchAtOnce)
})
