import { messagesQuery } from '~~/shared/messages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { mailboxesOf } from '../../../messages/mailboxes'
import { asFile, wavOf } from '../../../messages/message-sound'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'What was said in a voice message for oneself, as WAV',
  mayAsk: 'signedIn',
  params: withId,
  query: messagesQuery,
  dear: true,
  also: { 200: 'The sound, as audio/wav.', 404: 'There is no such message for whoever asks, or it has no sound.' },
}, async ({ event, person, params: { id }, query: { handset } }) => {
  const mailboxes = mailboxesOf(person, handset)
  const { messages, messageSound, orm } = useRelay()
  // Its end may not have been fetched yet.
  await messageSound?.look()
  const wav = await fromDatabase(async () => await messages.isFor(id, mailboxes) ? await wavOf(orm, id) : null)
  if (!wav) throw createError({ statusCode: 404, message: t('answers.noSoundInMessage') })
  return asFile(event, wav, 'message.wav')
})
