import { identityOffered } from '~~/shared/identity'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'By which identity provider one may sign in',
  mayAsk: 'everybody',
  answer: identityOffered,
}, async () => ({ name: (await fromDatabase(() => useRelay().identity.settings())).settings?.name ?? null }))
