import { done } from '~~/shared/done'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Nobody signs in by the identity provider any more; who has, is signed out',
  mayAsk: { right: 'keepAccounts' },
  answer: done('left'),
}, async ({ person }) => {
  const { identity, sessions } = useRelay()
  await fromDatabase(() => identity.leave(person.signIn))
  await fromDatabase(() => sessions.endThere(null, null))
  return { left: true }
})
