<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { useSoundDevices, soundAt } from '~/composables/sound-devices'

/** What was said, in a voice message or on a recorded call: played, sought in, quicker or slower at the same pitch, and taken away as WAV. */
const { address, label, file } = defineProps<{
  /** Of the sound. */
  address: string
  /** What it is the sound of. */
  label: string
  file: string
}>()
/** It was heard to its end. */
const emit = defineEmits<{ heard: [] }>()
const devices = useSoundDevices()

const speeds = [0.8, 1, 1.2, 1.5, 2] as const
/** Bars of the drawn wave. */
const bars = 80

const failure = ref<string | null>(null)
const wave = ref<number[]>([])
const length = ref(0)
const at = ref(0)
const plays = ref(false)
const speed = ref<number>(1)
const player = new Audio()
player.addEventListener('timeupdate', () => at.value = player.currentTime)
player.addEventListener('play', () => plays.value = true)
player.addEventListener('pause', () => plays.value = false)
player.addEventListener('ended', () => emit('heard'))

/** Fetched when it is first wanted: for its wave, and to be played. */
async function load(): Promise<void> {
  failure.value = null
  try {
    const sound = await $fetch<Blob>(address, { responseType: 'blob' })
    player.src = URL.createObjectURL(sound)
    const audio = new OfflineAudioContext(1, 1, 8_000)
    const buffer = await audio.decodeAudioData(await sound.arrayBuffer())
    length.value = buffer.duration
    wave.value = loudness(buffer.getChannelData(0))
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

/** How loud each part is, the loudest of all as 1. */
function loudness(samples: Float32Array): number[] {
  const part = Math.max(1, Math.ceil(samples.length / bars))
  const parts = Array.from({ length: Math.ceil(samples.length / part) }, (_, bar) =>
    samples.subarray(bar * part, (bar + 1) * part).reduce((most, sample) => Math.max(most, Math.abs(sample)), 0))
  const loudest = Math.max(0.01, ...parts)
  return parts.map(loud => loud / loudest)
}

async function toggle(): Promise<void> {
  if (plays.value) return player.pause()
  if (!player.src) await load()
  if (failure.value) return
  await soundAt(player, devices.value.headset)
  await player.play()
}
function seek(seconds: number): void {
  player.currentTime = seconds
  at.value = seconds
}
watch(speed, now => player.playbackRate = now)
watch(() => address, forget)

function forget(): void {
  player.pause()
  if (player.src) URL.revokeObjectURL(player.src)
  player.removeAttribute('src')
  wave.value = []
  length.value = at.value = 0
}
onBeforeUnmount(forget)
const time = (seconds: number) => spell(seconds * 1_000)
</script>

<template>
  <div
    class="player"
    role="group"
    :aria-label="label"
  >
    <el-button
      size="small"
      @click="toggle"
    >
      {{ plays ? t('messages.pause') : t('messages.play') }}
    </el-button>
    <div class="where">
      <svg
        v-if="wave.length"
        :viewBox="`0 0 ${bars} 20`"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <rect
          v-for="(loud, bar) in wave"
          :key="bar"
          :x="bar + 0.15"
          :y="10 - Math.max(0.4, loud * 10)"
          width="0.7"
          :height="Math.max(0.8, loud * 20)"
          :class="{ past: bar / wave.length < at / length }"
        />
      </svg>
      <input
        type="range"
        min="0"
        :max="length || 1"
        step="0.1"
        :value="at"
        :disabled="!length"
        :aria-label="t('messages.whereItPlays')"
        :aria-valuetext="t('messages.timeOfTime2', { time: time(at), time2: time(length) })"
        @input="seek(Number(($event.target as HTMLInputElement).value))"
      >
    </div>
    <span class="time">{{ length ? t('messages.timeOfTime2', { time: time(at), time2: time(length) }) : '' }}</span>
    <select
      v-model.number="speed"
      :aria-label="t('messages.speed')"
    >
      <option
        v-for="one in speeds"
        :key="one"
        :value="one"
      >
        {{ one }}×
      </option>
    </select>
    <a
      :href="address"
      :download="file"
    >{{ t('messages.wav') }}</a>
    <FailureNote :text="failure" />
  </div>
</template>

<style scoped>
.player {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-2) var(--space-3);
}

.where {
  position: relative;
  flex: 1 1 70%;
  height: 2rem;
  background: var(--paper-deep);
  border-radius: var(--round);
}

svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  fill: var(--ink-faint);
}

.past {
  fill: var(--ink);
}

input {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  margin: 0;
  background: transparent;
  appearance: none;
  cursor: pointer;
}

input::-webkit-slider-thumb {
  width: 3px;
  height: 2rem;
  appearance: none;
  background: var(--call);
}

.time {
  min-width: 5.5rem;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

select {
  padding: var(--space-1);
  background: var(--sheet);
  border: 1px solid var(--edge-strong);
  border-radius: var(--round);
  color: var(--ink);
  font: inherit;
}
</style>
