import { waiting } from '~~/shared/messages'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'How many messages and voice messages wait unread at each telephone',
  mayAsk: answering,
  answer: waiting,
}, async () => {
  const { messages, company } = useRelay()
  const all = await fromDatabase(() => messages.waiting())
  return all.filter(({ at }) => Object.hasOwn(company.current.telephones, at))
})
