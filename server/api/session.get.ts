import { signedIn } from '~~/shared/people'
import { whoAsks } from '../accounts/session'
import { defineEndpoint } from '../endpoints/define'

export default defineEndpoint({
  summary: 'Who is signed in',
  mayAsk: 'everybody',
  answer: signedIn.nullable(),
  also: { 204: 'Nobody is.' },
}, async ({ event }) => (await whoAsks(event))?.person ?? null)
