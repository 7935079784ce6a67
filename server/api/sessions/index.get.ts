import { ownSessions } from '~~/shared/people'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Where one is signed in oneself: browsers, the latest used first',
  mayAsk: 'signedIn',
  answer: ownSessions,
}, ({ person, session }) => useRelay().sessions.of(person.signIn, session))
