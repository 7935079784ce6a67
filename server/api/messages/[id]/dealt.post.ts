import { done } from '~~/shared/done'
import { dealtMessage, messagesQuery } from '~~/shared/messages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { mailboxesOf } from '../../../messages/mailboxes'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Say that one has dealt with what a message is about, or that nobody has after all; everybody who reads that mailbox sees by whom',
  mayAsk: 'signedIn',
  params: withId,
  query: messagesQuery,
  body: dealtMessage,
  answer: done('kept'),
  also: { 404: 'There is no such message for whoever asks.', 409: 'Somebody else has dealt with it before: the answer says who.' },
}, async ({ person, params: { id }, query: { handset }, body: { dealt } }) => {
  const { messages, wallNow } = useRelay()
  const by = await fromDatabase(() => messages.deal(id, mailboxesOf(person, handset), dealt ? person.name : null, new Date(wallNow)))
  if (by === undefined) throw createError({ statusCode: 404, message: t('answers.noSuchMessage') })
  if (dealt && by !== person.name) throw createError({ statusCode: 409, message: t('answers.hasDealtWithIt', { name: by! }) })
  return { kept: true }
})
