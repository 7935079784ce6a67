import { done } from '~~/shared/done'
import { messagesQuery } from '~~/shared/messages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { mailboxesOf } from '../../../messages/mailboxes'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Bring back a message that one has deleted',
  mayAsk: 'signedIn',
  params: withId,
  query: messagesQuery,
  answer: done('restored'),
  also: { 404: 'There is no such message for whoever asks, or it has gone for good.' },
}, async ({ person, params, query: { handset } }) => {
  const mailboxes = mailboxesOf(person, handset)
  const found = await fromDatabase(() => useRelay().messages.restore(params.id, mailboxes))
  if (!found) throw createError({ statusCode: 404, message: t('answers.noSuchMessage') })
  return { restored: true }
})
