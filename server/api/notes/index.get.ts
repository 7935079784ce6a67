import { ownNotes, type OwnNote } from '~~/shared/notes'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'What one has noted about colleagues for oneself',
  mayAsk: answering,
  answer: ownNotes,
}, ({ person }) => fromDatabase(() => useRelay().orm.em.fork().execute<OwnNote[]>(
  'select person, text, to_char(remind_on, \'YYYY-MM-DD\') as "remindOn" from own_note where sign_in = ? order by remind_on, person', [person.signIn],
)))
