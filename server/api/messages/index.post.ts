import { plainText } from '~~/core/calls/text'
import { done } from '~~/shared/done'
import { newMessage } from '~~/shared/messages'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { takesMessages } from '../../messages/mailboxes'
import { useRelay } from '../../relay'
import { t } from '../../language'

export default defineEndpoint({
  summary: 'Take a message for somebody who can\'t be reached: on their telephone\'s display and in their mailbox',
  mayAsk: answering,
  body: newMessage,
  answer: done('left'),
}, async ({ person, body }) => {
  const { messages, wallNow } = useRelay()
  if (!takesMessages(body.to)) {
    throw createError({
      statusCode: 422,
      message: t('answers.toIsNobody'),
      data: { field: 'to', sentence: t('answers.chooseFromTheDirectory') },
    })
  }
  const text = plainText(body.text, 500)
  if (!text)
    throw createError({ statusCode: 422, message: t('answers.textIsMissing'), data: { field: 'text', sentence: t('answers.writeWhatItIsAbout') } })
  await fromDatabase(() => messages.leave({
    kind: 'text',
    to: body.to,
    from: person.signIn,
    fromName: person.name,
    caller: body.caller && plainText(body.caller, 80),
    number: body.number && plainText(body.number, 40),
    text,
    urgent: body.urgent,
    callBack: body.callBack,
    seconds: null,
  }, new Date(wallNow)))
  return { left: true }
})
