import { contact, newContact } from '~~/shared/contacts'
import { addContact } from '../../contacts/contacts'
import { mayChangeContact } from '../../contacts/rights'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Save somebody outside: a company, somebody of a company, or somebody for themselves',
  mayAsk: answering,
  body: newContact,
  answer: contact,
  also: { 403: 'Contacts that all see are not changed by that role.' },
}, async ({ person, body }) => {
  await mayChangeContact(person, body)
  return fromDatabase(() => addContact(useRelay().orm.em.fork(), person.signIn, body))
})
