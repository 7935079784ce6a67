<script setup lang="ts">
import { speaksOnCall } from '~~/core/sound/heard'
import { useLive } from '~/stores/live'

/** Talks at a stand-in telephone by this browser, or hears a loudspeaker, until it is put down. `device`: null while it is on no line. */
const { device, listens = false, label = '' } = defineProps<{ device: string | null, listens?: boolean, label?: string }>()
const isOn = defineModel<boolean>({ required: true })
const live = useLive()
const isOpen = () => Boolean(live.state && device && speaksOnCall(live.state, device))
const { state, refusal, microphoneProblem } = useEar(() => device, () => isOn.value, listens ? null : isOpen)
const words = computed(() => {
  if (refusal.value ?? microphoneProblem.value) return refusal.value ?? microphoneProblem.value
  return state.value === 'lost' ? t('handset.soundIsLostAndTried') : ''
})
</script>

<template>
  <div class="ear">
    <el-button
      size="small"
      :aria-pressed="isOn"
      :type="isOn ? 'primary' : undefined"
      :aria-label="label || undefined"
      @click="isOn = !isOn"
    >
      {{ listens ? t('handset.hear') : isOn ? t('handset.talkNoMore') : t('handset.talkHere') }}
    </el-button>
    <span
      role="status"
      class="soft"
    >{{ words }}</span>
  </div>
</template>

<style scoped>
.ear {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--space-2);
}
</style>
