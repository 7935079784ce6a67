import { asDesigned } from '~~/shared/as-designed'
import { preferences } from '~~/shared/preferences'
import { fromDatabase } from '../../database/away'
import { PreferencesEntity } from '../../database/entities'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'How one has set one\'s console',
  mayAsk: 'signedIn',
  answer: preferences,
}, async ({ person }) => {
  const found = await fromDatabase(() => useRelay().orm.em.fork().findOne(PreferencesEntity, { signIn: person.signIn }))
  return { ...asDesigned, ...found?.kept }
})
