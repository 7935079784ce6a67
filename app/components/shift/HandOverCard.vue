<script setup lang="ts">
import type { HandOver } from '~~/shared/shift'
import { useShift } from '~/stores/shift'

/** One hand-over: what was said, what was open then, and who has seen it. */
defineProps<{ given: HandOver }>()
const shift = useShift()
const when = (at: number) => shownAt(at).format('D MMM H:mm')
</script>

<template>
  <article
    class="given"
    :aria-label="t('shift.handedOverBy', { byName: given.byName, when: when(given.at) })"
  >
    <p>
      <strong>{{ given.byName }}</strong> {{ t('shift.handedOver', { when: when(given.at) }) }}
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
        {{ t('shift.noteNote', { note }) }}
      </li>
      <li
        v-for="(thing, index) in given.things"
        :key="index"
      >
        <strong>{{ say(thing.who) }}</strong> {{ say(thing.words) }}
      </li>
    </ul>
    <p class="soft">
      {{ t('shift.openNotDealtWithOf', {
        things: given.things.length ? t('shift.thingsWere', { count: given.things.length }) : t('shift.nothingWas'),
        missed: t('shift.missedCalls', { count: given.missed }),
        unread: t('shift.messages', { count: given.unread }),
      }) }}
    </p>
    <p>
      <template v-if="given.seenAt">
        {{ t('shift.seenAndSignedBy', { seenByName: given.seenByName!, when: when(given.seenAt) }) }}
      </template>
      <template v-else-if="given.own">
        {{ t('shift.nobodyHasSignedItYet') }}
      </template>
      <el-button
        v-else
        type="primary"
        :aria-label="t('shift.iHaveSeenWhatHanded', { byName: given.byName })"
        @click="shift.send(`hand-overs/${given.id}/signed`, {}, 'Signed')"
      >
        {{ t('shift.iHaveSeenIt') }}
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
