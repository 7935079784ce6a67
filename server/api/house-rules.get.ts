import { houseRules } from '~~/shared/house-rules'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'How people sign in here, and what each role may do',
  mayAsk: { right: 'keepAccounts' },
  answer: houseRules,
}, () => useRelay().rules.current)
