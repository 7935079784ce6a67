import { object } from 'yup'
import { requestId, requestOutcome } from '~~/shared/requests'
import { defineEndpoint } from '../../endpoints/define'
import { outcomeOf, silence } from '../../exchange-link/carry-out'

export default defineEndpoint({
  summary: 'What became of a request of one\'s own whose answer never came; what was not carried out by then never will be',
  mayAsk: 'signedIn',
  params: object({ id: requestId }),
  answer: requestOutcome,
  also: silence,
}, ({ person, params }) => outcomeOf(`${person.signIn}:${params.id}`))
