import { companyEdited } from '~~/shared/company-edits'
import { withId } from '~~/shared/people'
import { undoEdit } from '../../../../company/edits'
import { fromDatabase, muchAtOnce } from '../../../../database/away'
import { defineEndpoint } from '../../../../endpoints/define'
import { useRelay } from '../../../../relay'

export default defineEndpoint({
  summary: 'Undo a change of the company; refused when one of its things has been changed since, or others need it',
  mayAsk: { right: 'runCompany' },
  params: withId,
  answer: companyEdited,
  also: { 404: 'There is no such change.', 409: 'One of its things has been changed since.' },
}, ({ person, params: { id } }) => fromDatabase(() => undoEdit(useRelay().orm.em.fork(), person.signIn, id), muchAtOnce))
