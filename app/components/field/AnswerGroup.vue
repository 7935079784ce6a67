<script setup lang="ts">
import type { Group } from '~~/core/company/company'
import { freeMembers } from '~~/core/calls/indexes'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const props = defineProps<{ group: Group, wide: boolean }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const words = usePresenceWords()

/** Who is free, the longest free first, and then the others: the order in which the group is rung. */
const members = computed(() => {
  const free = live.state ? freeMembers(live.state, props.group, desk.device ? [desk.device] : []) : []
  const others = props.group.members.filter(id => !free.includes(id))
  return [...free, ...others].flatMap((id) => {
    const presence = live.presences.get(id)
    return presence ? [{ id, name: directory.nameOf(id), presence, state: words.short(presence, desk.now) }] : []
  })
})
const free = computed(() => members.value.filter(member => member.presence.lit).length)
</script>

<template>
  <div>
    <p class="name">
      {{ group.name }}
    </p>
    <p class="number">
      {{ group.number }}
    </p>
    <p class="state">
      {{ t('field.ofFree', { more: group.distribution === 'queue' ? t('common.queue') : t('field.group'), free, count: members.length }) }}
    </p>
    <!-- For the eye: to the ear a group is its name and how many are free. -->
    <ol
      v-if="wide"
      class="members"
      aria-hidden="true"
    >
      <li
        v-for="member in members"
        :key="member.id"
        :class="member.presence.lit ? 'free' : 'taken'"
      >
        <span aria-hidden="true">{{ shapeOf(member.presence) }}</span> {{ member.name }}
        <span class="soft">{{ member.state.what }} {{ member.state.time }}</span>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.name {
  padding-right: 3rem;
  font: 700 var(--type-5) var(--font-sign);
}

.number {
  position: absolute;
  top: var(--space-3);
  right: var(--space-4);
  font-weight: 650;
}

.state {
  font-weight: 600;
}

.members {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(13rem, 1fr));
  gap: 0 var(--space-4);
  padding-top: var(--space-2);
}

.members li {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.free {
  font-weight: 650;
}

.taken,
.soft {
  color: var(--lit-ink-soft);
  font-weight: 400;
}
</style>
