import { soundsKept } from '~~/shared/own-sounds'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { mayKeepSound } from '../../own-sounds/brought'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Sounds that stand in the place of what the house plays: one\'s own greetings, and with the right to run the company what is the house\'s',
  mayAsk: 'signedIn',
  answer: soundsKept,
}, async ({ person }) => {
  const { company, ownSounds } = useRelay()
  return { sounds: await fromDatabase(() => ownSounds.list(place => mayKeepSound(person, company.current, place))) }
})
