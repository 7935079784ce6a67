<script setup lang="ts">
import { kindNames } from '~~/core/formats/number-kinds'
import { formatNumber } from '~/composables/numbers'
import type { Contact } from '~~/shared/contacts'
import { useContacts } from '~/stores/contacts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

/** A contact with all that is known, and all that can be done from there. */
const props = defineProps<{ contact: Contact }>()
const emit = defineEmits<{ choose: [id: string] }>()
const contacts = useContacts()
const desk = useDesk()
const dialogs = useDialogs()
const live = useLive()
const session = useSession()

const company = computed(() => contacts.companyOf(props.contact))
const people = computed(() => props.contact.kind !== 'company'
  ? []
  : [...contacts.known.values()].filter(one => one.company === props.contact.id).sort((a, b) => a.name.localeCompare(b.name)))
const kindWords = { company: t('common.company'), person: t('contacts.personOfACompany'), individual: t('contacts.individual') }
const facts = computed(() => {
  const { kind, language, category, addresses } = props.contact
  return [
    { what: t('common.who'), is: kindWords[kind] }, { what: t('contacts.speaks'), is: language }, { what: t('contacts.category'), is: category },
    ...addresses.map(address => ({ what: t('contacts.textTo'), is: address })),
    { what: t('contacts.seenBy'), is: props.contact.private ? t('contacts.youAlone') : t('contacts.allWhoAnswer') },
    ...props.contact.book ? [{ what: t('common.from'), is: t('contacts.changedThereAlone', { book: props.contact.book }) }] : [],
  ]
})
</script>

<template>
  <aside
    class="details"
    :aria-label="t('contacts.theChosenContact')"
  >
    <h2>{{ contact.name }}</h2>
    <p v-if="company">
      <button
        type="button"
        class="choose"
        @click="emit('choose', company.id)"
      >
        {{ company.name }}
      </button>
    </p>
    <p
      v-if="contact.mark !== 'none'"
      :class="contact.mark"
    >
      {{ contact.mark === 'important' ? t('contacts.important') : t('contacts.nuisance') }}
    </p>
    <ul
      :aria-label="t('contacts.numbers')"
      class="numbers"
    >
      <li
        v-for="{ number, kind } in contact.numbers"
        :key="number"
      >
        <span>{{ formatNumber(number) }} <span class="soft">{{ say(kindNames[kind]) }}</span></span>
        <el-button
          v-if="desk.device"
          size="small"
          :disabled="!live.working"
          :aria-label="t('contacts.callNumber', { number: formatNumber(number) })"
          @click="desk.ask({ service: 'makeCall', number })"
        >
          {{ t('contacts.call') }}
        </el-button>
      </li>
    </ul>
    <p
      v-if="contact.note"
      :class="['note', { first: contact.readFirst }]"
    >
      {{ contact.note }}
    </p>
    <FactList :facts="facts" />
    <p
      v-if="!contact.book && (contact.private || session.may('changeContacts'))"
      class="acts"
    >
      <el-button @click="dialogs.contact = { id: contact.id }">
        {{ t('contacts.edit') }}
      </el-button>
    </p>
    <template v-if="people.length">
      <h3>{{ t('contacts.peopleThere') }}</h3>
      <ul>
        <li
          v-for="one in people"
          :key="one.id"
        >
          <button
            type="button"
            class="choose"
            @click="emit('choose', one.id)"
          >
            {{ one.name }}
          </button>
        </li>
      </ul>
    </template>
    <template v-if="contact.numbers[0]">
      <h3>{{ t('contacts.lastCalls') }}</h3>
      <EarlierCalls :number="contact.numbers[0].number" />
    </template>
  </aside>
</template>

<style scoped>
.numbers li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: var(--space-1) 0;
  font-size: var(--type-4);
  font-variant-numeric: tabular-nums;
}

.note {
  padding: var(--space-2) var(--space-3);
  margin-block: var(--space-3);
  background: var(--paper-deep);
  overflow-wrap: anywhere;
  white-space: pre-line;
}

.note.first {
  border-left: 3px solid var(--ink);
}

.nuisance {
  color: var(--alarm);
}

.acts {
  padding-block: var(--space-4);
}
</style>
