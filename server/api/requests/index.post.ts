import { personServices, requestDone, requestFor, requestId } from '~~/shared/requests'
import { defineEndpoint } from '../../endpoints/define'
import { t } from '../../language'
import { useRelay } from '../../relay'
import { carryOut, refusals } from '../../exchange-link/carry-out'

export default defineEndpoint({
  summary: 'Ask the exchange for a service with one\'s own telephone; an id repeated is carried out once',
  mayAsk: 'signedIn',
  body: requestFor(personServices, { id: requestId }),
  answer: requestDone,
  also: { ...refusals, 403: 'The telephone is not one\'s own.' },
}, async ({ person, body: { id, ...request } }) => {
  if (request.device !== person.device) {
    throw createError({ statusCode: 403, message: person.device ? 'You can only use your own telephone.' : 'No telephone belongs to your account.' })
  }
  // The exchange knows nothing of sound: a call that is shown as recorded must be.
  if (request.service === 'startRecording' && !await useRelay().sound.health())
    throw createError({ statusCode: 409, message: t('refusals.nothingCanBeRecorded') })
  // Ids of different people never meet.
  return carryOut(`${person.signIn}:${id}`, request)
})
