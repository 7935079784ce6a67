import { customerKnown } from '~~/shared/customers'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

/** A number that is nobody's: of a range set aside for fiction. */
const nobodys = '+441632960999'

export default defineEndpoint({
  summary: 'Ask the customer system now, also while it is left in peace',
  mayAsk: ['administrator'],
  answer: customerKnown,
}, () => useRelay().customers.look(nobodys, true))
