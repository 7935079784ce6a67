import { identityReturn } from '~~/shared/identity'
import { signedIn } from '~~/shared/people'
import { beginSession } from '../../accounts/begin-session'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { accountOf } from '../../identity/account'
import { takeBegun, toldOf } from '../../identity/browser'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Back from the identity provider: with what it sent along, the session begins',
  mayAsk: 'everybody',
  body: identityReturn,
  answer: signedIn,
  also: {
    401: 'The provider has not let them in, or what it says does not hold.', 403: 'They may not come in here.', 404: 'There is no identity provider.',
    502: 'The identity provider can\'t be asked.',
  },
}, async ({ event, body: { query } }) => {
  const relay = useRelay()
  const proven = await relay.identity.finish(query, takeBegun(event)).catch(toldOf)
  const account = await fromDatabase(() => accountOf(relay, proven)).catch((error: unknown) => {
    if (isError(error) && error.statusCode === 403) relay.log(`sign-in: not let in: ${error.message}`)
    throw error
  })
  await fromDatabase(() => relay.sessions.changed(account.signIn))
  return beginSession(event, account, { providerSubject: proven.subject, providerSession: proven.session, idToken: proven.idToken })
})
