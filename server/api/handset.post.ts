import { lookUp } from '~~/core/company/lookups'
import { handsetServices, requestDone, requestFor, requestId } from '~~/shared/requests'
import { defineEndpoint } from '../endpoints/define'
import { carryOut, refusals } from '../exchange-link/carry-out'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'A stand-in handset: one\'s own telephone; callers outside, for whoever runs the company; and in the demo any other',
  mayAsk: 'signedIn',
  body: requestFor(handsetServices, { id: requestId }),
  answer: requestDone,
  also: { ...refusals, 403: 'The telephone is not one\'s own, and this is not the demo.' },
}, async ({ event, person, body: { id, ...request } }) => {
  const own = 'device' in request && request.device === person.device && request.service !== 'setHandset'
  // Whoever runs the company tries its lines: as a caller outside, at nobody else's telephone.
  const { telephones, groups } = useRelay().company.current
  const outside = 'device' in request ? !lookUp(telephones, request.device) && !lookUp(groups, request.device) : request.service === 'offerCall'
  const tries = outside && person.rights.includes('runCompany')
  if (!own && !tries && !useRuntimeConfig(event).demo) {
    throw createError({ statusCode: 403, message: 'Handsets of others can be held in the demo only.' })
  }
  return carryOut(`${person.signIn}:handset:${id}`, request)
})
