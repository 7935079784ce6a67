import { readCaller } from '~~/core/numbers/dialled'
import { callerCard, callerQuery } from '~~/shared/contacts'
import { callerCard as cardOf } from '../contacts/caller-card'
import { fromDatabase } from '../database/away'
import { answering, defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'What is known of whoever calls: place and kind of the number, where such calls ended, what is open with them',
  mayAsk: answering,
  query: callerQuery,
  answer: callerCard,
}, ({ person, query: { number, line } }) => {
  const { orm, company, replica } = useRelay()
  const now = replica.now + (replica.state?.clockOffset ?? 0)
  const caller = number ? readCaller(number, company.current.settings) : null
  return fromDatabase(() => cardOf(orm.em.fork(), company.current, person.signIn, caller, line ?? null, now))
})
