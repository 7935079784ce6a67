import { done } from '~~/shared/done'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'
import { t } from '../../language'

export default defineEndpoint({
  summary: 'End one of one\'s own sessions: that browser is signed out at once, and its feed closed',
  mayAsk: 'signedIn',
  params: withId,
  answer: done('ended'),
  also: { 404: 'There is no such session of one\'s own.' },
}, async ({ person, params }) => {
  const ended = await fromDatabase(() => useRelay().sessions.end(person.signIn, ({ name }) => name === params.id))
  if (!ended) throw createError({ statusCode: 404, message: t('answers.noSuchSession') })
  return { ended: true }
})
