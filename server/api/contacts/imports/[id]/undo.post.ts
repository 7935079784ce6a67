import { importUndone } from '~~/shared/contact-imports'
import { withId } from '~~/shared/people'
import { undoImport } from '../../../../contacts/imports'
import { fromDatabase, muchAtOnce } from '../../../../database/away'
import { defineEndpoint } from '../../../../endpoints/define'
import { useRelay } from '../../../../relay'

export default defineEndpoint({
  summary: 'Undo an import, some rows at a time while there are more: all are as before, but for who has changed since. Others\' are undone by supervisors',
  mayAsk: { right: 'moveContacts' },
  params: withId,
  answer: importUndone,
  also: { 404: 'There is no such import of one\'s own.', 409: 'It has been undone already.' },
}, ({ person, params: { id } }) => fromDatabase(() => undoImport(useRelay().orm.em.fork(), person.signIn, person.role !== 'operator', id), muchAtOnce))
