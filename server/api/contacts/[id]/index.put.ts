import { contact, contactChange } from '~~/shared/contacts'
import { withId } from '~~/shared/people'
import { changeContact } from '../../../contacts/contacts'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Change a contact; refused when somebody else has changed it since it was read',
  mayAsk: answering,
  params: withId,
  body: contactChange,
  answer: contact,
  also: { 404: 'There is no such contact.', 409: 'Somebody else has changed it since that version.' },
}, ({ person, params: { id }, body: { version, ...fields } }) =>
  fromDatabase(() => changeContact(useRelay().orm.em.fork(), person.signIn, id, version, fields)))
