import { done } from '~~/shared/done'
import { newShiftNote } from '~~/shared/shift'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { addNote } from '../../../shift/shift'

export default defineEndpoint({
  summary: 'Note something for the next shift',
  mayAsk: answering,
  body: newShiftNote,
  answer: done('noted'),
  also: { 409: 'There are as many open notes as there may be.' },
}, async ({ person, body: { text } }) => {
  const { orm, wallNow } = useRelay()
  await fromDatabase(() => addNote(orm.em.fork(), person, text, wallNow))
  return { noted: true }
})
