import { jsonSchemaOf } from '~~/core/schema/json-schema'
import { companyFile } from '~~/shared/company-edits'
import { defineEndpoint } from '../../endpoints/define'

export default defineEndpoint({
  summary: 'The shape of a company file, as JSON Schema',
  dear: true,
  mayAsk: 'signedIn',
  also: { 200: 'The schema.' },
}, ({ event }) => {
  setResponseHeader(event, 'content-type', 'application/schema+json')
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', ...jsonSchemaOf(companyFile, { closed: true }) } as never
})
