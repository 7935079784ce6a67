import { done } from '~~/shared/done'
import { withTelephone } from '~~/shared/telephones'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { t } from '../../../language'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Take the account of a telephone away: it registers no more, and what it was talking on ends',
  mayAsk: { right: 'runCompany' },
  params: withTelephone,
  answer: done('taken'),
  also: { 404: 'It has none.' },
}, async ({ params: { device } }) => {
  if (!await fromDatabase(() => useRelay().telephones.take(device))) throw createError({ statusCode: 404, message: t('telephones.itHasNone') })
  return { taken: true }
})
