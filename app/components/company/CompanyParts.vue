<script setup lang="ts">
import type { Part } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { partForms } from '~/company/forms'

/** What a company is made of: every part with how many there are; one that is chosen is looked at. */
const { company } = defineProps<{ company: Company }>()
const emit = defineEmits<{ choose: [part: Part] }>()
const parts = computed(() => (Object.keys(partForms) as Part[]).map(part => ({ part, title: t(partForms[part].title),
  count: Object.keys(company[part]).length })))
</script>

<template>
  <ul :aria-label="t('company.whatTheCompanyIsMade')">
    <li
      v-for="{ part, title, count } in parts"
      :key="part"
    >
      <button
        type="button"
        class="choose"
        @click="emit('choose', part)"
      >
        {{ title }}
      </button>
      {{ count }}
    </li>
  </ul>
</template>

<style scoped>
ul {
  columns: 2;
  column-gap: var(--space-5);
  padding-top: var(--space-4);
}

li {
  display: flex;
  justify-content: space-between;
  gap: var(--space-4);
  padding: var(--space-2) var(--space-3);
  border-bottom: var(--line);
  break-inside: avoid;
}
</style>
