<script setup lang="ts">
import { telephoneOf } from '~~/core/calendar/duty'
import type { Call } from '~~/core/calls/model'
import { outsideParty } from '~~/core/console/console'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { useNotes } from '~/stores/notes'

const desk = useDesk()
const notes = useNotes()
const directory = useDirectory()
const field = useField()
const live = useLive()

/** The call in question: one chosen by hand, the one in hand, or whoever is next; it stays to be read a while when it is over. */
const current = computed(() => {
  const { track } = desk
  return (track.chosen ? track.next!.call : null) ?? track.baton ?? track.open?.call ?? track.next?.call ?? null
})
const call = computed<Call | null>(before => current.value ?? (before && live.state?.calls.get(before.id)) ?? before ?? null)
/** What has become of it, when it is not before oneself any more. */
const since = computed(() => {
  if (current.value || !call.value) return null
  if (!live.state?.calls.has(call.value.id)) return t('panel.thisCallIsOver')
  const { parked } = call.value
  return parked ? t('panel.thisCallerWaitsIn', { slot: directory.nameOf(parked.slot) }) : t('panel.thisCallGoesOn')
})
const party = computed(() => call.value && outsideParty(call.value, desk.device))
const name = computed(() => call.value ? desk.shownName(call.value) : '')
/** What one wanted to be reminded of today; a press brings the person's card up, where the day can be taken away. */
const reminders = computed(() => notes.due.map(({ person, text }) =>
  ({ person, text, name: directory.personName(person), device: telephoneOf(live.company!, person) ?? person })))
const number = computed(() => party.value?.number ?? null)
</script>

<template>
  <aside
    class="panel"
    :aria-label="t('panel.theCallInQuestion')"
  >
    <PanelHead :title="call ? name : t('panel.theCallInQuestion')" />
    <div
      v-if="call"
      class="content"
      tabindex="0"
    >
      <p
        v-if="since"
        class="soft"
      >
        {{ since }}
      </p>
      <CallerFacts :call="call" />
      <h3>{{ t('common.whatHappened') }}</h3>
      <CallStory :call="call" />
      <h3>{{ t('panel.earlierCalls') }}</h3>
      <LazyEarlierCalls
        :number="number"
        :except="call.id"
      />
    </div>
    <p
      v-else
      class="content soft"
    >
      {{ t('panel.hereStandsWhatBelongsTo') }}
    </p>
    <section
      v-if="reminders.length"
      class="reminders"
      aria-labelledby="reminders"
    >
      <h3 id="reminders">
        {{ t('panel.toRememberToday') }}
      </h3>
      <ul>
        <li
          v-for="reminder in reminders"
          :key="reminder.person"
        >
          <button
            type="button"
            @click="field.pick(reminder.device)"
          >
            <strong>{{ reminder.name }}</strong> {{ reminder.text }}
          </button>
        </li>
      </ul>
    </section>
  </aside>
</template>

<style scoped>
.reminders {
  flex: none;
  max-height: 40%;
  padding: var(--space-3) var(--space-4);
  overflow: auto;
  border-top: var(--line);
}

.reminders button {
  width: 100%;
  padding: var(--space-2) var(--space-3);
  background: var(--lit);
  border: 0;
  border-left: 4px solid var(--edge-strong);
  color: var(--lit-ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
</style>
