import { withPlace } from '~~/shared/own-sounds'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { t } from '../../../language'
import { asFile, wavFile } from '../../../messages/message-sound'
import { mayKeepSound } from '../../../own-sounds/brought'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'A sound that was brought, as WAV',
  mayAsk: 'signedIn',
  dear: true,
  params: withPlace,
  also: { 200: 'The sound, as audio/wav.', 403: 'It is not for whoever asks.', 404: 'There is no sound at that place.' },
}, async ({ event, person, params: { place } }) => {
  const { company, ownSounds } = useRelay()
  if (!mayKeepSound(person, company.current, place)) throw createError({ statusCode: 403, message: t('ownSounds.notYours') })
  const sound = await fromDatabase(() => ownSounds.soundAt(place))
  if (!sound) throw createError({ statusCode: 404, message: t('ownSounds.thereIsNone') })
  return asFile(event, wavFile(sound), 'sound.wav')
})
