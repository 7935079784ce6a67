import { plainText } from '~~/core/calls/text'
import { done } from '~~/shared/done'
import { passedMessage } from '~~/shared/messages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { t } from '../../../language'
import { mailboxesOf, takesMessages } from '../../../messages/mailboxes'
import { useRelay } from '../../../relay'
import { wrongInput } from '../../../validation/read'

export default defineEndpoint({
  summary: 'Pass a message for oneself on to somebody else, with its sound and a word; asked twice, it is there once',
  mayAsk: 'signedIn',
  params: withId,
  body: passedMessage,
  answer: done('passed'),
  also: { 404: 'There is no such message for whoever asks.' },
}, async ({ person, params: { id }, body: { to, word } }) => {
  const { messages, messageSound, wallNow } = useRelay()
  if (!takesMessages(to)) throw wrongInput('to', t('messages.chooseSomebody'))
  if (to === person.device) throw wrongInput('to', t('messages.toYourself'))
  // Its end may not have been fetched yet.
  await messageSound?.look()
  const passed = { to, word: plainText(word, 200), by: person }
  const found = await fromDatabase(() => messages.passOn(id, mailboxesOf(person, undefined), passed, new Date(wallNow)))
  if (!found) throw createError({ statusCode: 404, message: t('answers.noSuchMessage') })
  return { passed: true }
})
