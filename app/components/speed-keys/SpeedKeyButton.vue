<script setup lang="ts">
import { formatNumber, readDialled } from '~/composables/numbers'
import type { SpeedKey } from '~~/core/speed-keys/key'
import { targetOf } from '~~/core/speed-keys/meaning'
import { useCarrying } from '~/stores/carrying'
import { useLive } from '~/stores/live'
import { useSpeedKeys } from '~/stores/speed-keys'

/** One speed key, live: pressed it does what it says beforehand; a call can be dropped on it. */
const props = defineProps<{ speedKey: SpeedKey, stroke: string, awaited: boolean }>()
const speedKeys = useSpeedKeys()
const live = useLive()
const carrying = useCarrying()
const { faceOf } = useSpeedKeyWords()

const face = computed(() => faceOf(props.speedKey))
const meaning = computed(() => speedKeys.meaning(props.speedKey, false))
const words = computed(() => 'words' in meaning.value ? meaning.value.words : meaning.value.why)
const label = computed(() => `${face.value.name}${face.value.state ? `, ${face.value.state}` : ''}: ${words.value}`)
/** What a call that is dropped here goes to. */
const target = computed(() => {
  const { kind, of } = props.speedKey
  const dialled = kind === 'number' ? readDialled(of) : null
  if (dialled) return dialled.kind === 'outside' ? dialled.e164 : formatNumber(of)
  return live.company ? targetOf(live.company, props.speedKey) ?? '' : ''
})
</script>

<template>
  <button
    v-call-target="target"
    type="button"
    :class="['speed-key', face.lit ? 'lit' : 'unlit', { awaited, over: target !== '' && carrying.over?.target === target }]"
    :aria-label="label"
    :title="t('speedKeys.shiftAsksFirst', { label })"
    :aria-disabled="!live.working"
    @click="live.working && speedKeys.press(speedKey, $event.shiftKey)"
  >
    <span class="name">{{ face.name }}</span>
    <span class="state"><span aria-hidden="true">{{ face.shape }}</span> {{ face.state }}</span>
    <kbd aria-hidden="true">{{ stroke }}</kbd>
  </button>
</template>

<style scoped>
.speed-key {
  display: grid;
  grid-template: auto 1fr / minmax(0, 1fr) auto;
  gap: 0 var(--space-2);
  width: 100%;
  height: 2.75rem;
  padding: var(--space-1) var(--space-2);
  overflow: hidden;
  border: 1px solid transparent;
  border-radius: var(--round);
  font-size: var(--type-2);
  line-height: 1.15;
  text-align: left;
  cursor: pointer;
}

.lit {
  background: var(--lit);
  border-color: var(--lit-edge);
  box-shadow: 0 1px 0 var(--lit-edge);
  color: var(--lit-ink);
}

.unlit {
  background: var(--unlit);
  color: var(--unlit-ink);
}

.name {
  grid-row: 1 / 3;
  grid-column: 1;
  max-height: 2.3em;
  overflow: hidden;
  font-weight: 650;
  overflow-wrap: anywhere;
}

.state {
  grid-row: 2;
  grid-column: 1 / 3;
  align-self: end;
  overflow: hidden;
  font-size: var(--type-1);
  text-overflow: ellipsis;
  white-space: nowrap;
}

.unlit .state {
  color: inherit;
}

kbd {
  grid-row: 1;
  grid-column: 2;
  align-self: start;
}

.awaited kbd {
  background: var(--ink);
  color: var(--paper);
}

.over {
  outline: 3px solid var(--focus);
}

.speed-key:hover {
  border-color: var(--ink);
}
</style>
