import { logPage, logQuery } from '~~/shared/log'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { readLog } from '../../journal/log'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'The call log, newest first; staff members see the calls of their own telephone',
  dear: true,
  mayAsk: 'signedIn',
  query: logQuery,
  answer: logPage,
}, ({ person, query }) => fromDatabase(() => readLog(useRelay().orm.em.fork(), person, query)))
