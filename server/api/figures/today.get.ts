import { today } from '~~/shared/figures'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'How lines and queues stand today, against their promises',
  mayAsk: answering,
  answer: today,
}, () => {
  const { todayFigures } = useRelay()
  return fromDatabase(() => todayFigures.read())
})
