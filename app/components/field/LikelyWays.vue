<script setup lang="ts">
import { useDirectory } from '~/stores/directory'
import { likelyKeys, useLikely } from '~/stores/likely'
import { useLive } from '~/stores/live'

/** Where the caller probably belongs, with the reason: a key each while they are in hand. */
const likely = useLikely()
const live = useLive()
const directory = useDirectory()
const words = usePresenceWords()
const keys = ['→', '⇧→', t('field.ctrl')]

const shown = computed(() => likely.destinations.map(({ destination, because, tried }, index) => {
  const presence = live.presences.get(destination)
  return {
    id: destination, because: tried ?? say(because), key: keys[index]!, spoken: t(likelyKeys[index]!), name: directory.nameOf(destination),
    state: presence ? words.brief(presence, live.now()) : '', unlit: presence?.lit === false,
  }
}))
/** Letters from which a name is written smaller, and may take two lines: it is read aloud, and never cut. */
const longName = 14
</script>

<template>
  <ul
    class="likely"
    :aria-label="t('field.probablyFor')"
  >
    <li
      v-for="(place, index) in shown"
      :key="place.id"
      v-call-target="place.id"
    >
      <el-button
        v-if="likely.inHand"
        :class="['place', { unlit: place.unlit, long: place.name.length > longName }]"
        :disabled="!live.working"
        :aria-label="t('field.passOnTo', { name: place.name, more: place.unlit ? `, ${place.state}` : '', because: place.because, spoken: place.spoken })"
        :title="t('field.withShiftAsksFirst', { because: place.because })"
        @click="likely.take(index, ($event as MouseEvent).shiftKey)"
      >
        <span class="who"><kbd>{{ place.key }}</kbd> {{ place.name }}</span>
        <span class="because">{{ place.unlit ? `${place.state} · ` : '' }}{{ place.because }}</span>
      </el-button>
      <p
        v-else
        :class="['place', 'before', { unlit: place.unlit, long: place.name.length > longName }]"
        :title="place.because"
      >
        <span class="who">{{ place.name }}</span>
        <span class="because">{{ place.because }}</span>
      </p>
    </li>
  </ul>
</template>

<style scoped>
.likely {
  display: grid;
  grid-auto-columns: minmax(0, 12.5rem);
  grid-auto-flow: column;
  gap: var(--space-3);
  height: 100%;
  min-width: 0;
}

.place {
  width: 100%;
  height: 100%;
  margin: 0;
  padding: var(--space-1) var(--space-3);
  overflow: hidden;
  line-height: 1.2;
  text-align: left;
  white-space: normal;
}

.el-button.place {
  justify-content: flex-start;
}

.place :deep(> span) {
  display: grid;
  min-width: 0;
}

.before {
  display: grid;
  align-content: center;
  border: 1px dashed var(--edge);
  border-radius: var(--round);
  color: var(--ink);
}

.who {
  font-weight: 650;
}

.long .who {
  font-size: var(--type-2);
  letter-spacing: -0.01em;
}

.because {
  display: -webkit-box;
  overflow: hidden;
  color: var(--ink-soft);
  font-size: var(--type-1);
  font-weight: 400;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
}

.long .because {
  -webkit-line-clamp: 1;
}

.unlit .who {
  color: var(--ink-soft);
}

@media (max-width: 60rem) {
  .likely {
    grid-auto-flow: row;
    height: auto;
  }
}
</style>
