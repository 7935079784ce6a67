import { connection, connectionNamed } from '~~/shared/connections'
import { tryNow } from '../../connections/connections'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Try one of them at once, and say how it is then',
  dear: true,
  mayAsk: { right: 'runCompany' },
  body: connectionNamed,
  answer: connection,
  also: { 404: 'There is no such connection any more.' },
}, ({ body }) => tryNow(useRelay(), body))
