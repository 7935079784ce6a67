import { object } from 'yup'
import { done } from '~~/shared/done'
import { shiftNoteId } from '~~/shared/shift'
import { fromDatabase } from '../../../../database/away'
import { answering, defineEndpoint } from '../../../../endpoints/define'
import { useRelay } from '../../../../relay'
import { sign } from '../../../../shift/shift'

export default defineEndpoint({
  summary: 'Whoever comes has seen a hand-over and signs it',
  mayAsk: answering,
  params: shiftNoteId,
  body: object({}).noUnknown().required(),
  answer: done('signed'),
  also: { 404: 'There is no such hand-over.', 409: 'It is signed already, or is one\'s own.' },
}, async ({ person, params: { id } }) => {
  const { orm, wallNow } = useRelay()
  await fromDatabase(() => sign(orm.em.fork(), person, id, wallNow))
  return { signed: true }
})
