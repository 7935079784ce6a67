<script setup lang="ts">
import type { DirectoryEntry } from '~~/core/directory/search'
import type { Presence } from '~~/core/presence/presence'
import { marked } from '~~/core/directory/marks'
import { triedBefore } from '~~/core/console/ways'
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { useWays } from '~/stores/ways'

const props = defineProps<{ person: DirectoryEntry, presence: Presence, top: boolean }>()
const desk = useDesk()
const field = useField()
const ways = useWays()
const words = usePresenceWords()
/** How it ended when this caller was sent to them the last time. */
const tried = computed(() => {
  const console = ways.console()
  return console && desk.baton ? triedBefore(console, desk.baton, props.person.telephones[0] ?? props.person.id) : null
})
const name = computed(() => marked(`${props.person.first} ${props.person.last}`.trim(), field.picked ? '' : field.text))
</script>

<template>
  <div :class="['person', { top }]">
    <p class="name">
      <span
        v-for="(piece, index) in name"
        :key="index"
        :class="{ typed: piece.marked }"
      >{{ piece.text }}</span> <span
        v-if="person.nickname"
        class="nickname"
      >“{{ person.nickname }}”</span>
    </p>
    <p class="state">
      <span aria-hidden="true">{{ shapeOf(presence) }}</span> {{ words.whole(presence, desk.now) }}
    </p>
    <p
      v-if="tried"
      class="tried"
    >
      {{ tried }}
    </p>
    <p class="extension">
      {{ person.extension }}
    </p>
    <p>{{ [person.role, person.departmentName, [person.site, person.room].filter(Boolean).join(', ')].filter(Boolean).join(' · ') }}</p>
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

.typed {
  text-decoration: underline 2px;
  text-underline-offset: 0.15em;
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

.tried {
  color: var(--alarm);
  font-weight: 650;
}
</style>
