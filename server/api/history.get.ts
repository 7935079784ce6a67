import { historyUnderWay } from '~~/shared/history'
import { fromDatabase } from '../database/away'
import { answering, defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'Earlier weeks that are being brought into log and figures: how many there are to be, and how many are there',
  mayAsk: answering,
  answer: historyUnderWay,
}, async () => {
  const [underWay] = await fromDatabase(() => useRelay().orm.em.fork().execute<{ weeks: number, done: number }[]>('select weeks, done from history_under_way'))
  return underWay ?? { weeks: 0, done: 0 }
})
