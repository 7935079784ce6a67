import { importPart, importVerdicts } from '~~/shared/contact-imports'
import { withId } from '~~/shared/people'
import { carryOut } from '../../../../contacts/imports'
import { fromDatabase, muchAtOnce } from '../../../../database/away'
import { defineEndpoint } from '../../../../endpoints/define'
import { useRelay } from '../../../../relay'

export default defineEndpoint({
  summary: 'Carry out a part of an import, whole or not at all; rows that have been carried out already are left as they are',
  mayAsk: { right: 'moveContacts' },
  params: withId,
  body: importPart,
  answer: importVerdicts,
  also: { 404: 'There is no such import of one\'s own.', 409: 'It has been undone.' },
}, ({ person, params: { id }, body }) => fromDatabase(() => carryOut(useRelay().orm.em.fork(), person.signIn, id, body.from, body.rows), muchAtOnce))
