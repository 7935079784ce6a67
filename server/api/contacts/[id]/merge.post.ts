import { contact, contactMerge } from '~~/shared/contacts'
import { withId } from '~~/shared/people'
import { mergeContacts } from '../../../contacts/contacts'
import { mayChangeContact } from '../../../contacts/rights'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Make one of two contacts that are the same: numbers and note of the other are taken over, and it is no more',
  mayAsk: answering,
  params: withId,
  body: contactMerge,
  answer: contact,
  also: {
    403: 'Contacts that all see are not changed by that role.',
    404: 'One of them is not there.', 409: 'Somebody else has changed it since that version.',
  },
}, async ({ person, params: { id }, body: { version, other } }) => {
  for (const one of [id, other]) await mayChangeContact(person, { id: one })
  return fromDatabase(() => mergeContacts(useRelay().orm.em.fork(), person.signIn, id, version, other))
})
