import { done } from '~~/shared/done'
import { withPlace } from '~~/shared/own-sounds'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { t } from '../../../language'
import { mayKeepSound } from '../../../own-sounds/brought'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Take a sound away: the house plays and says what it does by itself again',
  mayAsk: 'signedIn',
  params: withPlace,
  answer: done('deleted'),
  also: { 403: 'It is not for whoever asks.', 404: 'There is no sound at that place.' },
}, async ({ person, params: { place } }) => {
  const { company, ownSounds } = useRelay()
  if (!mayKeepSound(person, company.current, place)) throw createError({ statusCode: 403, message: t('ownSounds.notYours') })
  if (!await fromDatabase(() => ownSounds.remove(place))) throw createError({ statusCode: 404, message: t('ownSounds.thereIsNone') })
  return { deleted: true }
})
