import { done } from '~~/shared/done'
import { withId } from '~~/shared/people'
import { plainText } from '~~/core/calls/text'
import { longestNote, recordingNote } from '~~/shared/recordings'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { noteRecording } from '../../../recordings/recordings'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Note something about a recorded call; refused when somebody else has noted something since',
  mayAsk: { right: 'hearRecordings' },
  params: withId,
  body: recordingNote,
  answer: done('kept'),
  also: { 404: 'There is no such recording, or it has been deleted.', 409: 'Somebody else has noted something meanwhile.' },
}, async ({ person, params: { id }, body: { note, before } }) => {
  await fromDatabase(() => noteRecording(useRelay().orm.em.fork(), id, { note: plainText(note, longestNote), before }, person.signIn))
  return { kept: true }
})
