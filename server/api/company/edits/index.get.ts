import { editsQuery, recordedChanges } from '~~/shared/company-edits'
import { recordedEdits } from '../../../company/edits'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'What has been changed of the company, by whom, from what to what, the latest first',
  mayAsk: { right: 'runCompany' },
  query: editsQuery,
  answer: recordedChanges,
}, ({ query: { before } }) => fromDatabase(() => recordedEdits(useRelay().orm.em.fork(), before)))
