import { identitySettings } from '~~/shared/identity'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'The house\'s identity provider (OpenID Connect): how people sign in by it',
  mayAsk: { right: 'keepAccounts' },
  answer: identitySettings,
}, () => fromDatabase(() => useRelay().identity.settings()))
