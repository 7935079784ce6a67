<script setup lang="ts">
import { useLive } from '~/stores/live'

/** While nobody waits: what is due next. */
const live = useLive()
const things = useNextThings(6)
const when = (at: number | null) => at === null ? t('track.now') : momentWords(at, live.wall(live.now()))
</script>

<template>
  <section aria-labelledby="next-things">
    <h3 id="next-things">
      {{ t('track.next') }}
    </h3>
    <ol v-if="things.length">
      <li
        v-for="one in things"
        :key="one.key"
      >
        <span class="when">{{ when(one.at) }}</span> {{ one.what }}
      </li>
    </ol>
    <p v-else>
      {{ t('track.nothingIsDueInThe') }}
    </p>
  </section>
</template>
