import { contactVersion } from '~~/shared/contacts'
import { done } from '~~/shared/done'
import { withId } from '~~/shared/people'
import { removeContact } from '../../../contacts/contacts'
import { mayChangeContact } from '../../../contacts/rights'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Remove a contact; refused when somebody else has changed it since it was read',
  mayAsk: answering,
  params: withId,
  query: contactVersion,
  answer: done('removed'),
  also: {
    403: 'Contacts that all see are not changed by that role.',
    404: 'There is no such contact.', 409: 'Somebody else has changed it since that version.',
  },
}, async ({ person, params: { id }, query: { version } }) => {
  await mayChangeContact(person, { id })
  await fromDatabase(() => removeContact(useRelay().orm.em.fork(), person.signIn, id, version))
  return { removed: true }
})
