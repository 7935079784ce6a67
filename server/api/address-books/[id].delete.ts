import { done } from '~~/shared/done'
import { withId } from '~~/shared/people'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Read an address book no more: its contacts go',
  mayAsk: { right: 'runCompany' },
  params: withId,
  answer: done('removed'),
  also: { 404: 'There is no such address book.' },
}, ({ params: { id } }) => fromDatabase(async () => {
  await useRelay().addressBooks.remove(id)
  return { removed: true }
}, muchAtOnce))
