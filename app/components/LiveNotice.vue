<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

const live = useLive()
const desk = useDesk()

const away = computed(() => live.since === null ? '' : spell(desk.now - live.since))
const what = computed(() => {
  if (live.lost) return { title: 'No connection to the server', text: 'Calls go on at the exchange. What you see is as it was; it catches up by itself.' }
  if (live.connected && !live.exchange) return {
    title: 'The telephone exchange does not answer',
    text: 'No call can be taken or passed on until it is back. This page goes on by itself.',
  }
  return null
})
</script>

<template>
  <div role="alert">
    <div
      v-if="what"
      class="notice"
    >
      <strong>{{ what.title }}</strong>
      <span>{{ what.text }}</span>
      <span
        v-if="away"
        class="away"
        aria-hidden="true"
      >{{ away }}</span>
    </div>
  </div>
</template>

<style scoped>
.notice {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--space-2) var(--space-5);
  padding: var(--space-4) var(--space-5);
  background: var(--alarm);
  color: var(--alarm-ink);
  font-size: var(--type-4);
}

strong {
  font: 700 var(--type-5) var(--font-sign);
}

.away {
  margin-left: auto;
}
</style>
