import { callOfRecording, recordingOf } from '~~/core/calls/recording/recordings'
import { done } from '~~/shared/done'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { deleteRecording } from '../../../recordings/recordings'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Delete the sound of a recorded call for good; who has done so stays on record',
  mayAsk: { right: 'hearRecordings' },
  params: withId,
  answer: done('deleted'),
  also: { 404: 'There is no such recording, or it has been deleted.', 409: 'The call is being recorded at this moment.' },
}, async ({ person, params: { id } }) => {
  const { orm, replica } = useRelay()
  const call = replica.state?.calls.get(callOfRecording(id))
  if (call && recordingOf(call) === id)
    throw createError({ statusCode: 409, message: t('answers.isBeingRecorded') })
  await fromDatabase(() => deleteRecording(orm, id, person.signIn))
  return { deleted: true }
})
