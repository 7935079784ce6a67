import { contact, contactChange } from '~~/shared/contacts'
import { withId } from '~~/shared/people'
import { changeContact } from '../../../contacts/contacts'
import { mayChangeContact } from '../../../contacts/rights'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Change a contact; refused when somebody else has changed it since it was read',
  mayAsk: answering,
  params: withId,
  body: contactChange,
  answer: contact,
  also: {
    403: 'Contacts that all see are not changed by that role.',
    404: 'There is no such contact.', 409: 'Somebody else has changed it since that version.',
  },
}, async ({ person, params: { id }, body: { version, ...fields } }) => {
  await mayChangeContact(person, { id })
  await mayChangeContact(person, fields)
  return fromDatabase(() => changeContact(useRelay().orm.em.fork(), person.signIn, id, version, fields))
})
