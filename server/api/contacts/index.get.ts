import { contactsAnswer, contactsQuery } from '~~/shared/contacts'
import { contactsSince } from '../../contacts/contacts'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Whom we know outside: what has changed since a change that is known',
  dear: true,
  mayAsk: answering,
  query: contactsQuery,
  answer: contactsAnswer,
}, ({ person, query: { since } }) => fromDatabase(() => contactsSince(useRelay().orm.em.fork(), person.signIn, since)))
