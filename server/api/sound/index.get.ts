import { soundState } from '~~/shared/sound'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'How the sound of calls is: whether there is any, and whether made-up people can speak',
  mayAsk: 'signedIn',
  answer: soundState,
}, async () => {
  const { sound, hasSound } = useRelay()
  return { here: hasSound, process: await sound.health() }
})
