<script setup lang="ts">
import type { DirectoryEntry } from '~~/core/directory/search'
import type { Presence } from '~~/core/presence/presence'
import { useDesk } from '~/stores/desk'

defineProps<{ person: DirectoryEntry, presence: Presence, top: boolean }>()
const desk = useDesk()
const words = usePresenceWords()
</script>

<template>
  <div :class="['person', { top }]">
    <p class="name">
      {{ person.first }} {{ person.last }} <span
        v-if="person.nickname"
        class="nickname"
      >“{{ person.nickname }}”</span>
    </p>
    <p class="state">
      <span aria-hidden="true">{{ shapeOf(presence) }}</span> {{ words.whole(presence, desk.now) }}
    </p>
    <p class="extension">
      {{ person.extension }}
    </p>
    <p>{{ person.role }} · {{ person.departmentName }} · {{ person.site }}, {{ person.room }}</p>
  </div>
</template>

<style scoped>
p {
  overflow: hidden;
  text-overflow: ellipsis;
}

.name {
  padding-right: 3rem;
  font: 650 var(--type-4) var(--font-text);
}

.top .name {
  font: 700 var(--type-6)/1.15 var(--font-sign);
}

.nickname {
  font-weight: 400;
}

.extension {
  position: absolute;
  top: var(--space-3);
  right: var(--space-4);
  font-weight: 650;
}

.state {
  font-weight: 600;
}
</style>
