<script setup lang="ts">
import type { HandOver } from '~~/shared/shift'
import { useShift } from '~/stores/shift'

/** One hand-over: what was said, what was open then, and who has seen it. */
defineProps<{ given: HandOver }>()
const shift = useShift()
const when = (at: number) => shownAt(at).format('D MMM H:mm')
const several = (count: number, one: string, many: string) => count === 1 ? `1 ${one}` : `${count} ${many}`
</script>

<template>
  <article
    class="given"
    :aria-label="`Handed over by ${given.byName}, ${when(given.at)}`"
  >
    <p>
      <strong>{{ given.byName }}</strong> handed over, {{ when(given.at) }}
    </p>
    <p
      v-if="given.words"
      class="words"
    >
      {{ given.words }}
    </p>
    <ul
      v-if="given.things.length || given.notes.length"
      class="things"
    >
      <li
        v-for="(note, index) in given.notes"
        :key="`note ${index}`"
      >
        Note: {{ note }}
      </li>
      <li
        v-for="(thing, index) in given.things"
        :key="index"
      >
        <strong>{{ thing.who }}</strong> {{ thing.words }}
      </li>
    </ul>
    <p class="soft">
      {{ given.things.length ? several(given.things.length, 'thing was', 'things were') : 'Nothing was' }} open,
      {{ several(given.missed, 'missed call', 'missed calls') }} not dealt with, {{ several(given.unread, 'message', 'messages') }} of the lines unread.
    </p>
    <p>
      <template v-if="given.seenAt">
        Seen and signed by {{ given.seenByName }}, {{ when(given.seenAt) }}.
      </template>
      <template v-else-if="given.own">
        Nobody has signed it yet.
      </template>
      <el-button
        v-else
        type="primary"
        :aria-label="`I have seen what ${given.byName} handed over`"
        @click="shift.send(`hand-overs/${given.id}/signed`, {}, 'Signed')"
      >
        I have seen it
      </el-button>
    </p>
  </article>
</template>

<style scoped>
.given {
  display: grid;
  gap: var(--space-2);
  padding: var(--space-3) 0;
  border-bottom: var(--line);
  overflow-wrap: anywhere;
}

.words {
  font-size: var(--type-4);
}

.things {
  display: grid;
  gap: var(--space-1);
}
</style>
