import { ahead, aheadQuery } from '~~/shared/figures'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { askedBy } from '../../figures/asked'
import { readAhead } from '../../figures/ahead'

export default defineEndpoint({
  summary: 'How many calls the coming half-hours bring to a queue, and how sure that is',
  dear: true,
  mayAsk: { right: 'readFigures' },
  query: aheadQuery,
  answer: ahead,
  also: { 404: 'There is no such queue.' },
}, ({ event, query }) => fromDatabase(() => readAhead(askedBy(event), query.queue), muchAtOnce))
