import { companyFile } from '~~/shared/company-edits'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'The whole company as one file: to move it, to keep it, or to begin a new one with',
  dear: true,
  mayAsk: { right: 'runCompany' },
  answer: companyFile,
}, ({ event }) => {
  setResponseHeader(event, 'content-disposition', 'attachment; filename="company.json"')
  return { format: 'estafette-company' as const, formatVersion: 1 as const, company: useRelay().company.current }
})
