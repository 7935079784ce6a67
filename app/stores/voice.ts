import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { connectionOf } from '~~/core/calls/questions'
import { callHeardAt } from '~~/core/sound/heard'
import { useEar } from '~/composables/ear'
import { useDesk } from './desk'
import { useLive } from './live'
import { usePaging } from './paging'

/** Talking by this browser: the ear and mouth of one's own telephone. */
export const useVoice = defineStore('voice', () => {
  const desk = useDesk()
  const live = useLive()
  const paging = usePaging()
  /** Turned on once, it stays so in this browser. */
  const isOn = useLocalStorage('estafette-voice', false)
  /** Whether what is said is shown as well; those who practise listening hide it. */
  const captions = useLocalStorage('estafette-captions', true)
  /** One tries one's sound: the microphone is open, and nobody else hears it. */
  const trying = ref(false)
  const sheet = ref(false)

  const speaks = computed(() => {
    if (trying.value) return true
    if (!live.state || !desk.device) return false
    const call = callHeardAt(live.state, desk.device)
    return (paging.page !== null && !paging.page.waits) || (call !== undefined && !connectionOf(call, desk.device)!.muted)
  })
  const ear = useEar(() => desk.device, () => isOn.value, () => speaks.value, 'estafette-voice')

  watch(ear.state, (now, before) => {
    if (now === 'lost') desk.say('Sound is lost. Calls go on, and it is tried again.')
    if (now === 'on' && before === 'lost') desk.say('Sound is back.')
  })
  watch(ear.microphoneProblem, problem => problem && desk.say(problem))

  return { isOn, captions, trying, sheet, speaks, ...ear }
})
