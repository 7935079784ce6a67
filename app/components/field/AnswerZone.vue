<script setup lang="ts">
import type { Zone } from '~~/core/company/company'
import { speakerWords, speakingAt } from '~~/core/calls/paging/pages'
import { useLive } from '~/stores/live'

const props = defineProps<{ zone: Zone, site: string }>()
const live = useLive()
const speaks = computed(() => live.state ? speakerWords(t, live.state, speakingAt(live.state, props.zone.speakers)) : '')
</script>

<template>
  <div>
    <p class="title">
      {{ zone.name }}
    </p>
    <p>{{ speaks ? t('field.speaksThere', { speaks }) : t('common.loudspeakers') }} · {{ zone.number }}</p>
    <p class="soft">
      {{ site }}: {{ zone.speakers.join(', ') }}
    </p>
  </div>
</template>
