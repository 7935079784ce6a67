import { waiting } from '~~/shared/messages'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'How many messages and voice messages wait unread at each telephone',
  mayAsk: answering,
  answer: waiting,
}, () => {
  const { messages, company } = useRelay()
  return fromDatabase(() => messages.waiting(Object.keys(company.current.telephones)))
})
