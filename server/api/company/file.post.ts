import { companyFileAnswer, companyFileEdit } from '~~/shared/company-edits'
import { replaceCompany } from '../../company/edits'
import { fromDatabase, muchAtOnce } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'A company file in the place of this company: what it would change and what is wrong with it, or all of it carried out',
  dear: true,
  mayAsk: { right: 'runCompany' },
  body: companyFileEdit,
  answer: companyFileAnswer,
}, ({ person, body: { carryOut, file } }) => fromDatabase(() => replaceCompany(useRelay().orm.em.fork(), person.signIn, file.company, carryOut), muchAtOnce))
