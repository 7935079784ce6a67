import { identityBegun } from '~~/shared/identity'
import { defineEndpoint } from '../../endpoints/define'
import { keepBegun, toldOf } from '../../identity/browser'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Sign in by the identity provider: where the browser goes; it comes back to /signed-in',
  mayAsk: 'everybody',
  answer: identityBegun,
  also: { 404: 'There is no identity provider.', 502: 'The identity provider can\'t be asked, or what it says does not hold.' },
}, async ({ event }) => {
  const { address, kept } = await useRelay().identity.begin().catch(toldOf)
  keepBegun(event, kept)
  return { address }
})
