import { charge, chargeChange } from '~~/shared/charges'
import { withId } from '~~/shared/people'
import { correctCharge } from '../../charges/charges'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Put a call down to another account code, or to none, after it has ended; on record',
  mayAsk: { right: 'keepCharges' },
  params: withId,
  body: chargeChange,
  answer: charge,
  also: { 404: 'There is no such call that was answered and has ended.', 409: 'Somebody else has done so meanwhile.' },
}, ({ person, params: { id }, body }) => {
  const { orm, company } = useRelay()
  return fromDatabase(() => correctCharge(orm.em.fork(), id, person.signIn, body, company.current))
})
