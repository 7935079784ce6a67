import { done } from '~~/shared/done'
import { pageVersion } from '~~/shared/key-pages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { removePage } from '../../../speed-keys/pages'

export default defineEndpoint({
  summary: 'Remove a page of speed keys; refused when somebody else has changed it since it was read',
  mayAsk: answering,
  params: withId,
  query: pageVersion,
  answer: done('removed'),
  also: { 404: 'There is no such page of keys.', 409: 'Somebody else has changed it since that version.' },
}, async ({ person, params: { id }, query: { version } }) => {
  await fromDatabase(() => removePage(useRelay().orm.em.fork(), person.signIn, id, version))
  return { removed: true }
})
