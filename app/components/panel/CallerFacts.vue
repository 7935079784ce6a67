<script setup lang="ts">
import type { Call } from '~~/core/calls/model'
import { promisedTo } from '~~/core/console/call-backs'
import { outsideParty } from '~~/core/console/console'
import { formatNumber } from '~/composables/numbers'
import { useContacts } from '~/stores/contacts'
import { useCustomers } from '~/stores/customers'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Who calls, as far as anybody knows: before answering, and as long as the call lasts. */
const props = defineProps<{ call: Call }>()
const contacts = useContacts()
const customers = useCustomers()
const desk = useDesk()
const dialogs = useDialogs()
const directory = useDirectory()
const live = useLive()
const { promising, standing } = useCallBackWords()

const party = computed(() => outsideParty(props.call, desk.device))
const number = computed(() => party.value?.number ?? null)
const contact = computed(() => contacts.of(number.value))
const company = computed(() => contact.value && contacts.companyOf(contact.value))
const card = computed(() => contacts.cardOf(props.call))
const said = computed(() => customers.of(props.call.id, number.value))
const customer = computed(() => said.value?.customer)
const lines = computed(() => (customer.value?.lines ?? []).map(({ label, text }) => ({ what: label, is: text })))
const facts = computed(() => {
  const saysName = party.value?.name && party.value.name !== contact.value?.name ? party.value.name : ''
  return [
    { what: 'Company', is: company.value?.name ?? (contact.value?.kind === 'company' ? contact.value.name : '') },
    { what: 'Number', is: number.value ? formatNumber(number.value) : 'withheld' },
    { what: 'From', is: contact.value ? '' : [card.value?.place, card.value?.kind].filter(Boolean).join(', ') },
    { what: 'Line', is: directory.line(props.call.line)?.name ?? '' },
    { what: 'Speaks', is: contact.value?.language ?? '' },
    { what: 'Shows as', is: contact.value ? saysName : '' },
  ]
})
const notes = computed(() => [contact.value?.note, company.value?.note].filter(Boolean))
const promised = computed(() => live.state ? promisedTo(live.state, props.call) : [])
const open = computed(() => [
  card.value && card.value.missed > 0 ? `${card.value.missed} missed ${card.value.missed === 1 ? 'call' : 'calls'} not dealt with` : '',
  ...(card.value?.messages ?? []).map(({ to, text, at }) => `Unread since ${shownAt(at).format('D MMM H:mm')}, for ${directory.nameOf(to)}: “${text}”`),
].filter(Boolean))

function save(): void {
  dialogs.contact = contacts.pageOf(number.value, party.value?.name ?? null)
}
</script>

<template>
  <div>
    <p
      v-if="contact && contact.mark !== 'none'"
      :class="['mark', contact.mark]"
    >
      {{ contact.mark === 'important' ? '★ Important' : '⚑ Nuisance' }}
    </p>
    <p
      v-for="note in notes"
      :key="note"
      class="note"
    >
      {{ note }}
    </p>
    <FactList :facts="facts" />
    <ul
      v-if="open.length || promised.length"
      aria-label="Open with this caller"
      class="open"
    >
      <li
        v-for="promise in promised"
        :key="promise.id"
      >
        <NuxtLink to="/call-backs">To be called back</NuxtLink> by {{ directory.nameOf(promise.queue) }}: {{ standing(promise) }}. {{ promising(promise) }}
      </li>
      <li
        v-for="item in open"
        :key="item"
      >
        {{ item }}
      </li>
    </ul>
    <section
      v-if="customer"
      :aria-label="`From ${said?.source}`"
      class="customer"
    >
      <h3>{{ said?.source }}: {{ customer.name }} <span class="reference">{{ customer.reference }}</span></h3>
      <FactList :facts="lines" />
      <a
        v-if="customer.link"
        :href="customer.link"
        target="_blank"
        rel="noopener noreferrer"
      >Open {{ customer.reference || customer.name }} there</a>
    </section>
    <p
      v-else-if="said?.problem"
      class="problem"
    >
      {{ said.problem }}
    </p>
    <p
      v-if="contacts.sees && (number || contact)"
      class="save"
    >
      <el-button
        size="small"
        @click="save"
      >
        {{ contact ? 'Edit' : 'Save caller' }}&nbsp;<kbd>_</kbd>
      </el-button>
    </p>
  </div>
</template>

<style scoped>
.mark {
  font-weight: 700;
}

.nuisance {
  color: var(--alarm);
}

.note {
  padding: var(--space-2) var(--space-3);
  margin-bottom: var(--space-2);
  background: var(--paper-deep);
  border-left: 3px solid var(--ink);
  font-size: var(--type-3);
  overflow-wrap: anywhere;
  white-space: pre-line;
}

.open li {
  padding-top: var(--space-2);
  font-weight: 600;
  overflow-wrap: anywhere;
}

.customer a,
.open a {
  color: inherit;
}

.reference,
.problem {
  color: var(--ink-soft);
  font-weight: 500;
}

.save {
  padding-top: var(--space-3);
}
</style>
