import { companyEdit, companyEdited } from '~~/shared/company-edits'
import { editCompany } from '../../company/edits'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Change the company: all of it or nothing; refused when somebody else has changed one of these things since they were seen',
  mayAsk: { right: 'runCompany' },
  body: companyEdit,
  answer: companyEdited,
  also: { 409: 'Somebody else has changed one of these things since.' },
}, ({ person, body: { seen, changes } }) => fromDatabase(() => editCompany(useRelay().orm.em.fork(), person.signIn, seen, changes), muchAtOnce))
