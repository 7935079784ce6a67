import { done } from '~~/shared/done'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Read the directory no more: people stay, and are changed here',
  mayAsk: { right: 'runCompany' },
  answer: done('left'),
}, async () => {
  await fromDatabase(() => useRelay().houseDirectory.leave())
  return { left: true }
})
