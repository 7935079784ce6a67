import { connections } from '~~/shared/connections'
import { connectionsOf } from '../../connections/connections'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'How the exchange, the customer system, and address books and calendars of other servers are: last success, last problem',
  mayAsk: { right: 'runCompany' },
  answer: connections,
}, () => connectionsOf(useRelay()))
