<script setup lang="ts">
import { formatNumber } from '~/composables/numbers'
import type { Contact } from '~~/shared/contacts'

defineProps<{ contact: Contact, company: string }>()
const kinds = { company: 'Company', person: 'Contact', individual: 'Contact' }
</script>

<template>
  <div>
    <p class="title">
      {{ contact.name }}
    </p>
    <p>{{ [kinds[contact.kind], company, contact.book ?? (contact.private ? 'my own' : '')].filter(Boolean).join(' · ') }}</p>
    <p
      v-for="{ number, kind } in contact.numbers"
      :key="number"
      class="soft"
    >
      {{ formatNumber(number) }} {{ kind }}
    </p>
  </div>
</template>
