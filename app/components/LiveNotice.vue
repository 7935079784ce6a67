<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

const live = useLive()
const desk = useDesk()

const away = computed(() => live.since === null ? '' : spell(desk.now - live.since))
const what = computed(() => {
  if (live.outdated) return { title: t('frame.thisPageIsOfAnother'), text: t('frame.loadItAgainCallsGo') }
  if (live.lost) return { title: t('frame.noConnectionToTheServer'), text: t('frame.callsGoOnAtThe') }
  if (live.connected && !live.exchange) return {
    title: t('frame.theTelephoneExchangeDoesNot'),
    text: t('frame.noCallCanBeTaken'),
  }
  return null
})
// Whoever hears it was told that it went.
watch(what, (now, before) => before && !now && desk.say(t('frame.theConnectionIsBack')))
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
