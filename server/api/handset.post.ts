import type { SignedIn } from '~~/shared/people'
import { type HandsetRequest, handsetServices, requestDone, requestFor, requestId } from '~~/shared/requests'
import { defineEndpoint } from '../endpoints/define'
import { carryOut, refusals } from '../exchange-link/carry-out'
import { isPlayedBy } from '../exchange-link/own-callers'
import { useRelay } from '../relay'
import { t } from '../language'

export default defineEndpoint({
  summary: 'A stand-in handset: one\'s own telephone; callers whom one plays, for whoever runs the company; and in the demo any other',
  mayAsk: 'signedIn',
  body: requestFor(handsetServices, { id: requestId }),
  answer: requestDone,
  also: { ...refusals, 403: 'Neither one\'s own telephone nor a caller whom one plays, and this is not the demo.' },
}, async ({ event, person, body: { id, ...request } }) => {
  if (!isOwn(request, person) && !isPlayed(request, person) && !useRuntimeConfig(event).demo) {
    throw createError({ statusCode: 403, message: t('answers.handsetsInTheDemo') })
  }
  const done = await carryOut(`${person.signIn}:handset:${id}`, request)
  if (request.service === 'offerCall' && done.call) useRelay().ownCallers.add(person.signIn, done.call)
  return done
})

function isOwn(request: HandsetRequest, person: SignedIn): boolean {
  return 'device' in request && request.device === person.device && request.service !== 'setHandset'
}

function isPlayed(request: HandsetRequest, person: SignedIn): boolean {
  if (request.service === 'offerCall') return person.rights.includes('runCompany')
  return 'call' in request && typeof request.call === 'string' && isPlayedBy(person, request.device, request.call)
}
