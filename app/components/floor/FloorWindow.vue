<script setup lang="ts">
import type { DirectoryEntry } from '~~/core/directory/search'
import { useCarrying } from '~/stores/carrying'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

const props = defineProps<{ person: DirectoryEntry, reachable: boolean }>()
const live = useLive()
const desk = useDesk()
const words = usePresenceWords()
const carrying = useCarrying()

const presence = computed(() => live.presences.get(props.person.id))
const short = computed(() => presence.value ? words.short(presence.value, desk.now) : null)
const label = computed(() => {
  const { first, last, extension } = props.person
  return `${first} ${last}, ${extension}${presence.value ? `. ${words.whole(presence.value, desk.now)}` : ''}`
})
</script>

<template>
  <li>
    <button
      v-call-target="person.id"
      type="button"
      :class="['window', presence?.lit ? 'lit' : 'unlit', presence?.kind, { over: carrying.over?.target === person.id }]"
      :data-person="person.id"
      :tabindex="reachable ? 0 : -1"
      :aria-label="label"
      :title="label"
    >
      <span class="name"><span class="initial">{{ person.first[0] }}</span> {{ person.last }}</span>
      <span
        v-if="presence && short"
        class="state"
      ><span class="what">{{ shapeOf(presence) }} {{ short.what }}</span> <span>{{ short.time }}</span></span>
    </button>
  </li>
</template>

<style scoped>
li {
  min-width: 0;
}

.window {
  display: flex;
  flex-direction: column;
  justify-content: center;
  width: 100%;
  height: 100%;
  padding: 0 var(--space-2);
  border: 1px solid transparent;
  border-radius: var(--round);
  line-height: 1.12;
  text-align: left;
  cursor: pointer;
}

.name,
.what {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.name {
  font-size: var(--type-2);
}

.state {
  display: flex;
  justify-content: space-between;
  gap: var(--space-2);
  font-size: var(--type-1);
  white-space: nowrap;
}

.lit .state {
  color: var(--lit-ink-soft);
}

.lit {
  background: var(--lit);
  border-color: var(--lit-edge);
  box-shadow: 0 1px 0 var(--lit-edge);
  color: var(--lit-ink);
}

.lit .name {
  font-weight: 650;
}

.unlit {
  background: var(--unlit);
  color: var(--unlit-ink);
}

.unlit.away,
.unlit.disconnected,
.unlit.doNotDisturb {
  background: var(--dark);
  color: var(--dark-ink);
}

.window.over {
  outline: 3px solid var(--focus);
}

.window:hover {
  border-color: var(--ink);
}
</style>
