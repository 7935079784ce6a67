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
    { what: t('common.company'), is: company.value?.name ?? (contact.value?.kind === 'company' ? contact.value.name : '') },
    { what: t('common.number'), is: number.value ? formatNumber(number.value) : t('panel.withheld') },
    { what: t('common.from'), is: contact.value ? '' : [card.value?.place, card.value?.kind].filter(Boolean).join(', ') },
    { what: t('common.line'), is: directory.line(props.call.line)?.name ?? '' },
    { what: t('panel.speaks'), is: contact.value?.language ?? '' },
    { what: t('panel.showsAs'), is: contact.value ? saysName : '' },
  ]
})
const notes = computed(() => [contact.value?.note, company.value?.note].filter(Boolean))
const promised = computed(() => live.state ? promisedTo(live.state, props.call) : [])
const open = computed(() => [
  card.value && card.value.missed > 0 ? t('panel.missedCallNotDealtWith', { count: card.value.missed }) : '',
  ...(card.value?.messages ?? []).map(({ to, text, at }) => t('panel.unreadSinceFor', {
    at: shownAt(at).format('D MMM H:mm'), name: directory.line(to)?.name ?? directory.nameOf(to), text,
  })),
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
      {{ contact.mark === 'important' ? t('panel.important') : t('panel.nuisance') }}
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
      :aria-label="t('panel.openWithThisCaller')"
      class="open"
    >
      <li
        v-for="promise in promised"
        :key="promise.id"
      >
        <NuxtLink to="/call-backs">{{ t('panel.toBeCalledBack') }}</NuxtLink> {{ t('panel.byNameStandingPromising', {
          name: directory.nameOf(promise.queue), standing: standing(promise), promising: promising(promise),
        }) }}
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
      :aria-label="t('panel.fromSource', { source: said!.source })"
      class="customer"
    >
      <h3>{{ said?.source }}: {{ customer.name }} <span class="reference">{{ customer.reference }}</span></h3>
      <FactList :facts="lines" />
      <a
        v-if="customer.link"
        :href="customer.link"
        target="_blank"
        rel="noopener noreferrer"
      >{{ t('panel.openThere', { reference: customer.reference || customer.name }) }}</a>
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
        {{ contact ? t('panel.edit') : t('common.saveCaller') }}&nbsp;<kbd>_</kbd>
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
