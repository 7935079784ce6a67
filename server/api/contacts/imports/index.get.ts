import { contactImports } from '~~/shared/contact-imports'
import { importsFor } from '../../../contacts/imports'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'The latest imports of shared contacts, and of one\'s own',
  mayAsk: { right: 'moveContacts' },
  answer: contactImports,
}, ({ person }) => fromDatabase(() => importsFor(useRelay().orm.em.fork(), person.signIn)))
