<script setup lang="ts">
import type { Density } from '~~/core/console/floor'
import type { DirectoryEntry } from '~~/core/directory/search'
import { useCarrying } from '~/stores/carrying'
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { useMailboxes } from '~/stores/mailboxes'

const props = defineProps<{ person: DirectoryEntry, density: Density, roomy: boolean, reachable: boolean }>()
const live = useLive()
const desk = useDesk()
const field = useField()
const words = usePresenceWords()
const carrying = useCarrying()
const mailboxes = useMailboxes()

/** Letters from which a name is written closer, so that it is never cut. */
const longName = 17

const presence = computed(() => live.presences.get(props.person.id))
const lit = computed(() => presence.value?.lit ?? false)
/** Whoever is free is shown with what helps to choose them; whoever is not, with why and how long. */
const state = computed(() => {
  if (!presence.value || lit.value) return { what: props.density === 'names' ? '' : props.person.role, time: props.person.extension }
  return words.short(presence.value, desk.now)
})
/** Who has just become free, or rings, stands out for a moment. */
const fresh = ref(false)
watch(() => [lit.value, presence.value?.kind] as const, ([is, kind], [was, before]) => {
  fresh.value = (is && !was) || (kind === 'ringing' && before !== 'ringing')
})
/** New messages that wait for them. */
const mail = computed(() => {
  const count = mailboxes.countOf(props.person.id)
  return count > 0 ? t('floor.countNew', { count }) : ''
})
const label = computed(() => {
  const { first, last, extension, role } = props.person
  const mail = mailboxes.wordsOf(props.person.id)
  return `${`${first} ${last}`.trim()}. ${presence.value ? `${words.whole(presence.value, desk.now)}. ` : ''}${extension}, ${role}${mail && `. ${mail}`}`
})
onMounted(floorIsDrawn)
</script>

<template>
  <button
    v-call-target="person.id"
    type="button"
    :class="['window', density, { roomy }, lit ? 'lit' : 'unlit', presence?.kind, { fresh, over: carrying.over?.target === person.id }]"
    :data-person="person.id"
    :tabindex="reachable ? 0 : -1"
    :aria-label="label"
    :title="label"
    @click="field.pick(person.id)"
    @animationend="fresh = false"
  >
    <template v-if="density === 'numbers'">
      {{ person.extension || person.last }}
    </template>
    <template v-else>
      <span :class="['name', { long: person.first.length + person.last.length > longName }]"><span
        v-if="presence"
        class="shape"
      >{{ shapeOf(presence) }}</span> {{ person.first }} {{ person.last }}</span>
      <span
        v-if="roomy"
        class="state"
      ><span>{{ person.extension }}</span><template v-if="!lit"><span>{{ state.time }}</span><span>{{ state.what }}</span></template></span>
      <span
        v-else
        class="state"
      ><span class="what">{{ state.what }}</span> <span
        v-if="density === 'windows'"
        class="mail"
      >{{ mail }}</span> <span class="time">{{ state.time }}</span></span>
      <span
        v-if="density === 'rooms'"
        class="where"
      >{{ lit ? '' : `${person.extension} · ` }}{{ lit ? person.room : person.role }} <span class="mail">{{ mail }}</span></span>
    </template>
  </button>
</template>

<style scoped>
.window {
  display: flex;
  flex-direction: column;
  justify-content: center;
  min-width: 0;
  padding: 0 0.35em;
  overflow: hidden;
  border: 1px solid transparent;
  border-radius: var(--round);
  font-size: 1em;
  line-height: 1.15;
  text-align: left;
  cursor: pointer;
}

/* What does not fit beside a name goes to a row that is not seen: a name is never cut for it, and no half of a number stands there. */
.window.names {
  flex-flow: row wrap;
  gap: 0.35em;
  align-content: flex-start;
  justify-content: space-between;
  border: 0;
  border-radius: 2px;
}

.names > span {
  line-height: var(--floor-row);
}

.window.numbers {
  padding: 0;
  border: 0;
  border-radius: 2px;
  font-variant-numeric: tabular-nums;
  line-height: 1;
  text-align: center;
}

.window.numbers.lit {
  box-shadow: none;
  font-weight: 700;
}

.window.numbers.ringing {
  box-shadow: inset 0 0 0 1px var(--ink);
}

.name {
  white-space: nowrap;
}

.long {
  font-size: 0.87em;
  letter-spacing: -0.02em;
}

.shape {
  display: inline-block;
  width: 1em;
  font-size: 0.8em;
  text-align: center;
}

.rooms .name {
  font-size: 1.15em;
}

.state {
  display: flex;
  gap: 0.35em;
  justify-content: space-between;
  min-width: 0;
  font-size: 0.9em;
  white-space: nowrap;
}

/* The number first, at the right; before it since or until when, and why, as far as there is room for each. */
.roomy .state {
  flex: 1 0 2.8em;
  flex-flow: row-reverse wrap;
  justify-content: flex-start;
  height: var(--floor-row);
  overflow: hidden;
}

.what {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}

.mail {
  flex: none;
  font-weight: 650;
}

.where {
  overflow: hidden;
  font-size: 0.9em;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.lit .state,
.lit .where {
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

@media (prefers-reduced-motion: no-preference) {
  .window.fresh {
    animation: fresh 1.6s ease-out;
  }
}

@keyframes fresh {
  from {
    box-shadow: 0 0 0 2px var(--ink);
  }
}

.window.over {
  outline: 3px solid var(--focus);
}

.window:hover {
  border-color: var(--ink);
}
</style>
