import { lookUp } from '~~/core/company/lookups'
import { telephoneSecret, withTelephone } from '~~/shared/telephones'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { t } from '../../../language'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Give a telephone an account to register with, or its account a new secret; the secret is told this once',
  mayAsk: { right: 'runCompany' },
  params: withTelephone,
  answer: telephoneSecret,
  also: { 404: 'There is no such telephone.', 409: 'This house serves no telephones of the network.' },
}, async ({ person, params: { device } }) => {
  const { company, telephones, wallNow } = useRelay()
  const telephone = lookUp(company.current.telephones, device)
  if (!telephone) throw createError({ statusCode: 404, message: t('answers.noSuchTelephone') })
  if (telephones.address === '') throw createError({ statusCode: 409, message: t('telephones.noneAreServed') })
  return fromDatabase(() => telephones.give(telephone, person.signIn, new Date(wallNow)))
})
