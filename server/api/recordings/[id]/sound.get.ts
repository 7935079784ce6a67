import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { asFile, wavOf } from '../../../messages/message-sound'
import { noSuchRecording } from '../../../recordings/recordings'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'What was said on a recorded call, as WAV',
  mayAsk: { right: 'hearRecordings' },
  params: withId,
  dear: true,
  also: { 200: 'The sound, as audio/wav.', 404: 'There is no such recording, or it has been deleted.' },
}, async ({ event, params: { id } }) => {
  const { messageSound, orm } = useRelay()
  // Its end may not have been fetched yet.
  await messageSound?.look()
  const wav = await fromDatabase(async () => {
    const [there] = await orm.em.fork().execute<object[]>('select 1 from recording where id = ? and deleted_at is null', [id])
    return there ? await wavOf(orm, id) : null
  })
  if (!wav) throw noSuchRecording()
  return asFile(event, wav, 'recording.wav')
})
