import { handsetServices, requestDone, requestFor, requestId } from '~~/shared/requests'
import { defineEndpoint } from '../endpoints/define'
import { carryOut, refusals } from '../exchange-link/carry-out'

export default defineEndpoint({
  summary: 'A stand-in handset: one\'s own telephone, and in the demo any other and callers outside',
  mayAsk: 'signedIn',
  body: requestFor(handsetServices, { id: requestId }),
  answer: requestDone,
  also: { ...refusals, 403: 'The telephone is not one\'s own, and this is not the demo.' },
}, async ({ event, person, body: { id, ...request } }) => {
  const own = 'device' in request && request.device === person.device && request.service !== 'setHandset'
  if (!own && !useRuntimeConfig(event).demo) {
    throw createError({ statusCode: 403, message: 'Handsets of others can be held in the demo only.' })
  }
  return carryOut(`${person.signIn}:handset:${id}`, request)
})
