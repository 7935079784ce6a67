<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

const live = useLive()
const desk = useDesk()

const away = computed(() => live.since === null ? '' : spell(desk.now - live.since))
const what = computed(() => {
  if (live.outdated) return { title: 'This page is of another version than its server', text: 'Load it again. Calls go on at the exchange.' }
  if (live.lost) return { title: 'No connection to the server', text: 'Calls go on at the exchange. What you see is as it was; it catches up by itself.' }
  if (live.connected && !live.exchange) return {
    title: 'The telephone exchange does not answer',
    text: 'No call can be taken or passed on until it is back. This page goes on by itself.',
  }
  return null
})
</script>

<template>
  <!-- Said once: the time that it has lasted stands outside what is an alert. -->
  <div :class="{ notice: what }">
    <div role="alert">
      <template v-if="what">
        <strong>{{ what.title }}</strong>
        <span>{{ what.text }}</span>
      </template>
    </div>
    <span
      v-if="what && away"
      class="away"
      aria-hidden="true"
    >{{ away }}</span>
  </div>
</template>

<style scoped>
.notice,
.notice > div {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--space-2) var(--space-5);
}

.notice {
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
