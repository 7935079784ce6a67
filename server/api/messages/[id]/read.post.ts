import { done } from '~~/shared/done'
import { messagesQuery } from '~~/shared/messages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { mailboxesOf } from '../../../messages/mailboxes'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Mark a message for oneself as read; who wrote it sees that',
  mayAsk: 'signedIn',
  params: withId,
  query: messagesQuery,
  answer: done('read'),
  also: { 404: 'There is no such message for whoever asks.' },
}, async ({ person, params, query: { handset } }) => {
  const mailboxes = mailboxesOf(person, handset)
  const found = await fromDatabase(() => useRelay().messages.read(params.id, mailboxes, new Date(useRelay().wallNow)))
  if (!found) throw createError({ statusCode: 404, message: t('answers.noSuchMessage') })
  return { read: true }
})
