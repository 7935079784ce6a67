<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'

const field = useField()
const directory = useDirectory()
const live = useLive()
const desk = useDesk()
const words = usePresenceWords()

const answers = computed(() => field.hits.flatMap((hit) => {
  const person = directory.person(hit.extension)
  const presence = live.presences.get(hit.extension)
  return person && presence ? [{ person, presence, because: hit.because }] : []
}))

watch(() => field.best, best => document.getElementById(`answer-${best?.extension}`)?.scrollIntoView({ block: 'nearest' }), { flush: 'post' })
</script>

<template>
  <div
    v-show="field.isSearching"
    class="answers"
  >
    <ul
      id="answers"
      role="listbox"
      aria-label="Answers"
      class="front"
    >
      <li
        v-for="({ person, presence, because }, index) in answers"
        :id="`answer-${person.extension}`"
        :key="person.extension"
        role="option"
        :aria-selected="index === field.selected"
        :class="['answer', presence.lit ? 'lit' : 'unlit', `rank-${Math.min(index, 3)}`]"
        @click="field.selected = index"
        @dblclick="field.act(field.towards(person.extension))"
      >
        <p class="name">
          {{ person.first }} {{ person.last }} <span
            v-if="person.nickname"
            class="nickname"
          >“{{ person.nickname }}”</span>
        </p>
        <p class="extension">
          {{ person.extension }}
        </p>
        <p class="place">
          {{ person.role }} · {{ person.departmentName }} · {{ person.site }}, {{ person.room }}
        </p>
        <p class="state">
          <span aria-hidden="true">{{ shapeOf(presence) }}</span> {{ words.whole(presence, desk.now) }}
        </p>
        <p
          v-if="because"
          class="because"
        >
          found by: {{ because }}
        </p>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.answers {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 0 var(--space-4) var(--space-4);
}

.front {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: var(--space-3);
}

.answer {
  position: relative;
  min-width: 0;
  padding: var(--space-3) var(--space-4);
  border: 1px solid var(--edge);
  border-radius: var(--round);
  cursor: pointer;
}

.answer p {
  overflow: hidden;
  text-overflow: ellipsis;
}

.rank-0 {
  grid-column: span 2;
  font-size: var(--type-4);
  padding: var(--space-4) var(--space-5);
}

.lit {
  background: var(--lit);
  border-color: var(--lit-edge);
  border-bottom-width: 3px;
  color: var(--lit-ink);
}

.unlit {
  background: var(--unlit);
  color: var(--unlit-ink);
}

.answer[aria-selected='true'] {
  outline: 3px solid var(--ink);
}

.name {
  padding-right: 3rem;
  font: 650 var(--type-4) var(--font-text);
}

.rank-0 .name {
  font: 700 var(--type-6)/1.15 var(--font-sign);
}

.rank-1 .name {
  font-size: var(--type-5);
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

.rank-0 .extension {
  font-size: var(--type-5);
}

.state {
  font-weight: 600;
}

.because {
  color: inherit;
  font-size: var(--type-2);
}

@media (max-width: 40rem) {
  .front {
    grid-template-columns: 1fr;
  }

  .rank-0 {
    grid-column: auto;
  }
}
</style>
