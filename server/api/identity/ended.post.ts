import { done } from '~~/shared/done'
import { identityEnded } from '~~/shared/identity'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { NotProven } from '../../identity/provider'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'The identity provider says that somebody has signed out there (OpenID Connect Back-Channel Logout 1.0)',
  mayAsk: 'everybody',
  body: identityEnded,
  bodyType: 'application/x-www-form-urlencoded',
  answer: done('ended'),
  also: { 400: 'That is no logout token of the provider.', 404: 'There is no identity provider.', 502: 'The identity provider can\'t be asked.' },
}, async ({ body }) => {
  const { identity, sessions } = useRelay()
  const { subject, session } = await identity.ended(body.logout_token).catch((error: unknown) => {
    if (!(error instanceof NotProven)) throw error
    throw createError({ statusCode: error.why === 'away' ? 502 : 400, message: error.message })
  })
  await fromDatabase(() => sessions.endThere(subject, session))
  return { ended: true }
})
