<script setup lang="ts">
import type { Duty, Group, Zone } from '~~/core/company/company'
import type { DirectoryEntry } from '~~/core/directory/search'
import { noTelephone, type Presence } from '~~/core/presence/presence'
import { contactOfEntry } from '~~/core/directory/entries'
import type { Contact } from '~~/shared/contacts'
import type { OnDuty } from '~~/core/calendar/duty'
import { useContacts } from '~/stores/contacts'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { useWhereabouts } from '~/stores/whereabouts'

const field = useField()
const directory = useDirectory()
const live = useLive()
const contacts = useContacts()
const whereabouts = useWhereabouts()

interface Answer {
  id: string
  because: string | null
  group?: Group
  zone?: Zone
  contact?: Contact
  duty?: Duty & OnDuty
  person?: DirectoryEntry
  presence: Presence
}

const answers = computed(() => field.hits.map(({ id, because }): Answer => {
  const duty = whereabouts.duty(id) ?? undefined
  const presence = live.presences.get(duty ? whereabouts.reach(duty) : id) ?? noTelephone
  const contact = contacts.known.get(contactOfEntry(id) ?? '')
  const [group, zone, person] = [directory.group(id), directory.zone(id), directory.person(id)]
  return { id, because: because && say(because), group, zone, contact, person, duty, presence }
}))

watch(() => field.best, best => document.getElementById(`answer-${best?.id}`)?.scrollIntoView({ block: 'nearest' }), { flush: 'post' })
</script>

<template>
  <div
    v-show="field.isSearching"
    class="answers"
  >
    <ul
      id="answers"
      role="listbox"
      :aria-label="t('field.answers')"
      class="front"
      tabindex="0"
    >
      <!-- The keyboard stays in the field, which names the marked option (WAI-ARIA: aria-activedescendant). -->
      <!-- eslint-disable vuejs-accessibility/click-events-have-key-events, vuejs-accessibility/interactive-supports-focus -->
      <li
        v-for="(answer, index) in answers"
        :id="`answer-${answer.id}`"
        :key="answer.id"
        v-call-target="answer.id"
        role="option"
        :aria-selected="index === field.selected"
        :class="['answer', answer.group || answer.zone || answer.contact || answer.presence.lit ? 'lit' : 'unlit', `rank-${Math.min(index, 3)}`]"
        @click="field.selected = index"
        @dblclick="field.take(field.ways[0])"
      >
        <!-- eslint-enable -->
        <AnswerGroup
          v-if="answer.group"
          :group="answer.group"
          :wide="index === field.selected"
        />
        <AnswerZone
          v-else-if="answer.zone"
          :zone="answer.zone"
          :site="directory.siteName(answer.zone.site)"
        />
        <AnswerDuty
          v-else-if="answer.duty"
          :duty="answer.duty"
        />
        <AnswerContact
          v-else-if="answer.contact"
          :contact="answer.contact"
          :company="contacts.companyOf(answer.contact)?.name ?? ''"
        />
        <AnswerPerson
          v-else-if="answer.person"
          :person="answer.person"
          :presence="answer.presence"
          :top="index === 0"
        />
        <p
          v-else
          class="title"
        >
          {{ t('field.notHereAnyMore') }}
        </p>
        <p
          v-if="answer.because"
          class="because"
        >
          {{ answer.because }}
        </p>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.answers {
  flex: 1;
  min-height: 0;
}

.front {
  display: grid;
  height: 100%;
  padding: var(--space-1) var(--space-4) var(--space-4);
  overflow: auto;
  align-content: start;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: var(--space-3);
  align-items: start;
}

.answer :deep(.title) {
  font: 700 var(--type-4) var(--font-sign);
}

.answer :deep(.soft) {
  color: var(--lit-ink-soft);
}

.answer {
  position: relative;
  min-width: 0;
  padding: var(--space-3) var(--space-4);
  border: 1px solid var(--edge);
  border-radius: var(--round);
  cursor: pointer;
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
