import { readCaller } from '~~/core/numbers/dialled'
import { customerKnown, customerQuery } from '~~/shared/customers'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'What the house\'s customer system says of a number, within 800 ms or not at all',
  mayAsk: answering,
  query: customerQuery,
  answer: customerKnown,
}, ({ query: { number } }) => {
  const { customers, company } = useRelay()
  return customers.look(readCaller(number, company.current.settings))
})
