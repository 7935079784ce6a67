import { done } from '~~/shared/done'
import { broughtSound, withPlace } from '~~/shared/own-sounds'
import { plainText } from '~~/core/calls/text'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { t } from '../../../language'
import { mayKeepSound, readSound } from '../../../own-sounds/brought'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Bring a sound: "music", "tone:…", "line:…" or "greeting:…:…" (usual, or a status; of a telephone, group or line) plays it from now on',
  mayAsk: 'signedIn',
  dear: true,
  params: withPlace,
  body: broughtSound,
  answer: done('kept'),
  also: { 403: 'It is neither one\'s own greeting nor, with the right to run the company, the house\'s; or there is no such place.' },
}, async ({ person, params: { place }, body: { wav, name } }) => {
  const { company, ownSounds, wallNow } = useRelay()
  if (!mayKeepSound(person, company.current, place)) throw createError({ statusCode: 403, message: t('ownSounds.notYours') })
  const sound = readSound(wav, place)
  await fromDatabase(() => ownSounds.keep(place, sound, plainText(name, 120), person.signIn, new Date(wallNow)))
  return { kept: true }
})
