<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { speaksOnCall } from '~~/core/sound/heard'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'
import { usePaging } from '~/stores/paging'
import { useVoice } from '~/stores/voice'

/** The ear and mouth of one's own telephone: fetched by those who talk by their browser, once the console can be used. */
const desk = useDesk()
const live = useLive()
const paging = usePaging()
const voice = useVoice()

const speaks = computed(() => {
  if (voice.aside) return false
  if (voice.trying) return true
  if (!live.state || !desk.device) return false
  return (paging.page !== null && !paging.page.waits) || speaksOnCall(live.state, desk.device)
})
const ear = useEar(() => desk.device, () => true, () => speaks.value, 'estafette-voice')
voice.ear = ear
onBeforeUnmount(() => {
  voice.ear = null
})

watch(ear.state, (now, before) => {
  if (now === 'lost') desk.say(t('sound.soundIsLostCallsGo'))
  if (now === 'on' && before === 'lost') desk.say(t('sound.soundIsBack'))
})
watch(ear.microphoneProblem, problem => problem && desk.say(problem))
// Whoever speaks on a page without typing goes on with it.
useIntervalFn(() => ear.talks.value && paging.page && void paging.goOn(), 1_000)
</script>

<template>
  <span hidden />
</template>
