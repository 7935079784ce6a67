import { company } from '~~/core/company/schema'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Who works here, and everything that calls can reach: the configuration in its latest version',
  dear: true,
  mayAsk: 'signedIn',
  answer: company,
}, () => useRelay().company.current)
