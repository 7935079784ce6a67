import { wellFormed } from '~~/core/calls/text'
import { lookUp } from '~~/core/company/lookups'
import { done } from '~~/shared/done'
import { noteChange } from '~~/shared/notes'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'
import { t } from '../../language'

export default defineEndpoint({
  summary: 'Note something about a colleague for oneself, with a day to be reminded of it; without text and day the note is gone',
  mayAsk: answering,
  params: withId,
  body: noteChange,
  answer: done('kept'),
  also: { 404: 'There is no such person.' },
}, async ({ person: { signIn }, params: { id }, body: { text, remindOn } }) => {
  const { company, orm } = useRelay()
  if (!lookUp(company.current.people, id)) throw createError({ statusCode: 404, message: t('answers.noSuchPerson') })
  const kept = wellFormed(text).trim()
  const em = orm.em.fork()
  await fromDatabase(() => kept === '' && remindOn === null
    ? em.execute('delete from own_note where sign_in = ? and person = ?', [signIn, id])
    : em.execute(
        `insert into own_note (sign_in, person, text, remind_on) values (?, ?, ?, ?)
          on conflict (sign_in, person) do update set text = excluded.text, remind_on = excluded.remind_on`,
        [signIn, id, kept, remindOn],
      ))
  return { kept: true }
})
