<script setup lang="ts">
import type { Density } from '~~/core/console/floor'
import { useCarrying } from '~/stores/carrying'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import type { Block } from './places'

/** A department's name, and how many of it are free: what changes there leaves the windows around it as they are. */
const props = defineProps<{ block: Block, density: Density }>()
const live = useLive()
const field = useField()
const carrying = useCarrying()
const free = computed(() => props.block.people.filter(({ id }) => live.presences.get(id)?.lit).length)
</script>

<template>
  <h3 :class="density">
    <button
      v-call-target="block.group"
      type="button"
      :class="{ over: block.group !== null && carrying.over?.target === block.group }"
      :disabled="block.group === null"
      tabindex="-1"
      :aria-label="t('floor.ofFree', { name: block.department.name, site: block.site, free, count: block.people.length })"
      :title="`${block.department.name}, ${block.site}`"
      @click="block.group && field.pick(block.group)"
    >
      <span class="department">{{ block.department.name }}</span>
      <span class="free">{{ free }}/{{ block.people.length }}</span>
      <span class="site">{{ block.site }}</span>
    </button>
  </h3>
</template>

<style scoped>
h3 {
  height: 100%;
  font: 700 1em/1.1 var(--font-sign);
}

button {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 0.4em;
  align-content: end;
  align-items: baseline;
  width: 100%;
  height: 100%;
  padding: 0 var(--space-2);
  overflow: hidden;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  text-align: left;
  white-space: nowrap;
  cursor: pointer;
}

.department {
  overflow: hidden;
  font-size: 0.92em;
  letter-spacing: -0.02em;
  text-overflow: ellipsis;
}

button:disabled {
  cursor: default;
}

button.over {
  outline: 3px solid var(--focus);
}

.free,
.site {
  color: var(--ink-faint);
  font: 500 0.9em var(--font-text);
}

.site {
  display: none;
  grid-column: 1 / 3;
}

.windows .site,
.rooms .site {
  display: block;
}

.rooms button {
  font-size: 1.3em;
}
</style>
