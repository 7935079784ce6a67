import { identitySettings, identityWanted } from '~~/shared/identity'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Have people sign in by an identity provider; it is asked first, and what does not answer is not kept',
  mayAsk: { right: 'keepAccounts' },
  body: identityWanted,
  answer: identitySettings,
}, ({ person, body }) => useRelay().identity.keep(person.signIn, body))
