<script setup lang="ts">
import { kindNames } from '~~/core/formats/number-kinds'
import { formatNumber } from '~/composables/numbers'
import type { Contact } from '~~/shared/contacts'

defineProps<{ contact: Contact, company: string }>()
const kinds = { company: t('common.company'), person: t('field.contact'), individual: t('field.contact') }
</script>

<template>
  <div>
    <p class="title">
      {{ contact.name }}
    </p>
    <p>{{ [kinds[contact.kind], company, contact.book ?? (contact.private ? t('field.myOwn') : '')].filter(Boolean).join(' · ') }}</p>
    <p
      v-for="{ number, kind } in contact.numbers"
      :key="number"
      class="soft"
    >
      {{ formatNumber(number) }} {{ say(kindNames[kind]) }}
    </p>
  </div>
</template>
