import { soundAnswer, soundOffer } from '~~/shared/sound'
import { defineEndpoint } from '../endpoints/define'
import { mayHold } from '../exchange-link/own-callers'
import { useRelay } from '../relay'
import { SoundAway, SoundRefused } from '../sound-link/sound-process'
import { t } from '../language'

export default defineEndpoint({
  summary: 'Ear and mouth of a telephone for this browser (WebRTC): its offer with every candidate in it, answered alike',
  mayAsk: 'signedIn',
  body: soundOffer,
  answer: soundAnswer,
  also: {
    403: 'Neither one\'s own telephone nor a caller whom one plays, and this is not the demo.',
    409: 'Refused: the offer holds nothing that can be answered, or this house has no sound.',
    503: 'There is no sound at the moment.',
  },
}, async ({ event, person, session, body: { device, sdp } }) => {
  if (!mayHold(person, device, useRuntimeConfig(event).demo))
    throw createError({ statusCode: 403, message: t('answers.heardInTheDemo') })
  try {
    return await useRelay().sound.join({ device, sdp, session })
  }
  catch (error) {
    if (error instanceof SoundAway) throw createError({ statusCode: 503, message: error.message })
    if (error instanceof SoundRefused) throw createError({ statusCode: 409, message: error.message })
    throw error
  }
})
