import { houseRules, houseRulesChange } from '~~/shared/house-rules'
import { fromDatabase } from '../database/away'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'Decide how people sign in here, and what each role may do: in force at once, in every open console',
  mayAsk: { right: 'keepAccounts' },
  body: houseRulesChange,
  answer: houseRules,
  also: { 409: 'Somebody else has changed them meanwhile.' },
}, ({ person, body }) => {
  const { rules, log } = useRelay()
  log(`accounts: ${person.signIn} decided the rules: ${JSON.stringify(body)}`)
  return fromDatabase(() => rules.change(body, person.signIn))
})
