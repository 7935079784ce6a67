import { done } from '~~/shared/done'
import { messagesQuery } from '~~/shared/messages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { mailboxesOf } from '../../../messages/mailboxes'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Delete a message for oneself; for a day it can be brought back',
  mayAsk: 'signedIn',
  params: withId,
  query: messagesQuery,
  answer: done('deleted'),
  also: { 404: 'There is no such message for whoever asks.' },
}, async ({ person, params, query: { handset } }) => {
  const mailboxes = mailboxesOf(person, handset)
  const found = await fromDatabase(() => useRelay().messages.delete(params.id, mailboxes, new Date()))
  if (!found) throw createError({ statusCode: 404, message: t('answers.noSuchMessage') })
  return { deleted: true }
})
