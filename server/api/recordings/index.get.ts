import { recordingsPage, recordingsQuery } from '~~/shared/recordings'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { readRecordings } from '../../recordings/recordings'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Recorded calls, newest first; of those that were deleted only that they were, and by whom',
  dear: true,
  mayAsk: { right: 'hearRecordings' },
  query: recordingsQuery,
  answer: recordingsPage,
}, ({ query }) => fromDatabase(() => readRecordings(useRelay().orm.em.fork(), query)))
