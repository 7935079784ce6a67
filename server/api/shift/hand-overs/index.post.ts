import { clockOf, namesIn, openThings } from '~~/core/console/open-things'
import { done } from '~~/shared/done'
import { newHandOver } from '~~/shared/shift'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { handOver } from '../../../shift/shift'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Hand over the shift: what is open at this moment is kept with what one says, for whoever comes',
  mayAsk: answering,
  body: newHandOver,
  answer: done('handedOver'),
  also: { 503: 'The exchange does not answer: it is not known what is open.' },
}, async ({ person, body: { words } }) => {
  const { orm, company, replica, wallNow } = useRelay()
  const { state } = replica
  if (!state) throw createError({ statusCode: 503, message: t('answers.exchangeDoesNotSayWhatIsOpen') })
  const things = openThings(state, replica.now, namesIn(company.current), clockOf(company.current))
  await fromDatabase(() => handOver(orm.em.fork(), person, words, things, Object.keys(company.current.lines), wallNow))
  return { handedOver: true }
})
