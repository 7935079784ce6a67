import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Ear } from '~/composables/ear'

/** Talking by this browser: whether one does, and how it is. The ear itself is fetched by those who do (`OwnEar.vue`). */
export const useVoice = defineStore('voice', () => {
  /** Turned on once, it stays so in this browser. */
  const isOn = useLocalStorage('estafette-voice', false)
  /** Whether what is said is shown as well; those who practise listening hide it. */
  const captions = useLocalStorage('estafette-captions', true)
  /** One tries one's sound: the microphone is open, and nobody else hears it. */
  const trying = ref(false)
  /** One speaks, and nobody on a call hears it: what one records is for later. */
  const aside = ref(false)
  const sheet = ref(false)
  const ear = shallowRef<Ear | null>(null)

  const state = computed(() => ear.value?.state.value ?? (isOn.value ? 'connecting' : 'off'))
  const refusal = computed(() => ear.value?.refusal.value ?? null)
  const microphone = computed(() => ear.value?.microphone.value ?? null)
  const microphoneProblem = computed(() => ear.value?.microphoneProblem.value ?? null)
  const remote = computed(() => ear.value?.remote.value ?? null)
  const tryAgain = () => void ear.value?.tryAgain()

  return { isOn, captions, trying, aside, sheet, ear, state, refusal, microphone, microphoneProblem, remote, tryAgain }
})
