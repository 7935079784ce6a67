import type { H3Event } from 'h3'
import { useRelay } from '../relay'
import type { Asked } from './days'

/** What a request for figures stands on: the company as it is, and whether whoever asked still waits for the answer. */
export function askedBy(event: H3Event): Asked {
  const { orm, company, wallNow } = useRelay()
  return { em: orm.em.fork(), company: company.current, now: wallNow, gone: () => event.node.res.closed }
}
