import { done } from '~~/shared/done'
import { preferencesChange } from '~~/shared/preferences'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Set one\'s console: what is named changes, the rest stays, also when two of one\'s consoles set different things at once',
  mayAsk: 'signedIn',
  body: preferencesChange,
  answer: done('kept'),
}, async ({ person, body }) => {
  await fromDatabase(() => useRelay().orm.em.fork().execute(
    'insert into preferences (sign_in, kept) values (?, ?::jsonb) on conflict (sign_in) do update set kept = preferences.kept || excluded.kept',
    [person.signIn, JSON.stringify(body)],
  ))
  return { kept: true }
})
