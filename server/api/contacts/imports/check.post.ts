import { importCheck, importVerdicts } from '~~/shared/contact-imports'
import { checkRows } from '../../../contacts/imports'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'What would become of contacts from a file: new, changed, unchanged, or refused and why; nothing is changed',
  dear: true,
  mayAsk: { right: 'moveContacts' },
  body: importCheck,
  answer: importVerdicts,
}, ({ person, body }) => fromDatabase(() => checkRows(useRelay().orm.em.fork(), person.signIn, body.private, body.rows)))
