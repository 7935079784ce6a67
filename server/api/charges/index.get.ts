import { charges, chargesQuery } from '~~/shared/charges'
import { chargesOf } from '../../charges/charges'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Calls outside of a period, and how long they lasted for each account code',
  dear: true,
  mayAsk: { right: 'keepCharges' },
  query: chargesQuery,
  answer: charges,
}, ({ query }) => {
  const { orm, company } = useRelay()
  return fromDatabase(() => chargesOf(orm.em.fork(), query, company.current.settings.zone))
})
