import { contactImport, newImport } from '~~/shared/contact-imports'
import { beginImport } from '../../../contacts/imports'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Begin to bring in contacts from a file; its rows follow in parts',
  mayAsk: { right: 'moveContacts' },
  body: newImport,
  answer: contactImport,
}, ({ person, body }) => fromDatabase(() => beginImport(useRelay().orm.em.fork(), person.signIn, body.file, body.private)))
