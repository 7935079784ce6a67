import { done } from '~~/shared/done'
import { shiftNoteDone, shiftNoteId } from '~~/shared/shift'
import { fromDatabase } from '../../../../database/away'
import { answering, defineEndpoint } from '../../../../endpoints/define'
import { useRelay } from '../../../../relay'
import { markNote } from '../../../../shift/shift'

export default defineEndpoint({
  summary: 'A note of the shift is done, or open again',
  mayAsk: answering,
  params: shiftNoteId,
  body: shiftNoteDone,
  answer: done('kept'),
  also: { 404: 'There is no such note.' },
}, async ({ person, params: { id }, body }) => {
  const { orm, wallNow } = useRelay()
  await fromDatabase(() => markNote(orm.em.fork(), person, id, body.done, wallNow))
  return { kept: true }
})
