<script setup lang="ts">
import { useRafFn } from '@vueuse/core'

/** How loud something is just now, from what comes: a bar for the eye, a tenth of it for who listens. */
const { stream, label } = defineProps<{ stream: MediaStream | null, label: string }>()
/** Below it (dB) there is silence. */
const quietest = -60
const level = ref(0)
let audio: AudioContext | null = null
let analyser: AnalyserNode | null = null
const samples = new Float32Array(512)

function listen(to: MediaStream | null): void {
  analyser?.disconnect()
  analyser = null
  level.value = 0
  if (!to) return
  audio ??= new AudioContext()
  void audio.resume()
  analyser = audio.createAnalyser()
  analyser.fftSize = samples.length
  audio.createMediaStreamSource(to).connect(analyser)
}

useRafFn(() => {
  if (!analyser) return
  analyser.getFloatTimeDomainData(samples)
  const power = samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length
  const decibels = 10 * Math.log10(power || 1e-12)
  level.value = Math.max(0, Math.min(100, Math.round((1 - decibels / quietest) * 100)))
}, { fpsLimit: 20 })
watch(() => stream, listen, { immediate: true })
onBeforeUnmount(() => void audio?.close())
</script>

<template>
  <meter
    class="level"
    min="0"
    max="100"
    :value="level"
    :aria-label="label"
    :aria-valuetext="level > 0 ? t('sound.of10', { ceil: Math.ceil(level / 10) }) : t('sound.silent')"
  />
</template>

<style scoped>
.level {
  width: 100%;
  height: var(--space-3);
  appearance: none;
  background: var(--paper-deep);
  border: 1px solid var(--edge-strong);
  border-radius: var(--round);
}

.level::-webkit-meter-bar {
  background: var(--paper-deep);
  border: 0;
}

.level::-webkit-meter-optimum-value {
  background: var(--ink);
}

.level::-moz-meter-bar {
  background: var(--ink);
}
</style>
