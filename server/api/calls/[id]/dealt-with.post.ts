import { dealing } from '~~/shared/log'
import { done } from '~~/shared/done'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { CallRecordEntity } from '../../../database/entities'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Say that a missed call has been dealt with, by calling back or otherwise: whoever says so first is kept, and every operator sees it',
  mayAsk: answering,
  params: withId,
  body: dealing,
  answer: done('kept'),
  also: { 404: 'There is no such call.' },
}, async ({ person, params: { id }, body: { calledBack } }) => {
  const { orm, wallNow } = useRelay()
  await fromDatabase(() => orm.em.fork().transactional(async (em) => {
    if (!await em.findOne(CallRecordEntity, { id })) throw createError({ statusCode: 404, message: t('answers.noSuchCall') })
    await em.execute(
      'insert into dealt_with (call, by, by_name, at, called_back) values (?, ?, ?, ?, ?) on conflict (call) do nothing',
      [id, person.signIn, person.name, new Date(wallNow), calledBack],
    )
    await em.execute('select pg_notify(\'dealt_with\', \'\')')
  }))
  return { kept: true }
})
