import { shift } from '~~/shared/shift'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'
import { readShift } from '../../shift/shift'

export default defineEndpoint({
  summary: 'What is said from one shift to the next: notes, hand-overs, and what is still to be done',
  mayAsk: answering,
  answer: shift,
}, ({ person }) => {
  const { orm, company, wallNow } = useRelay()
  return fromDatabase(() => readShift(orm.em.fork(), person, Object.keys(company.current.lines), wallNow))
})
