<script setup lang="ts">
import type { Company } from '~~/core/company/company'
import { titleOf } from '~/company/forms'

/** How skilled each member of a queue is, from 0 to 9. */
const { company, members } = defineProps<{ company: Company, members: readonly string[] }>()
const skills = defineModel<Record<string, number>>({ required: true })
const best = 9

function set(member: string, skill: number | undefined): void {
  skills.value = Object.fromEntries(members.map(one => [one, one === member ? skill ?? 0 : skills.value[one] ?? 0]).filter(([, its]) => Number(its) > 0))
}
</script>

<template>
  <ul class="skills">
    <li
      v-for="member in members"
      :key="member"
    >
      <el-input-number
        :model-value="skills[member] ?? 0"
        :min="0"
        :max="best"
        size="small"
        :aria-label="t('company.skillOf', { titleOf: titleOf(company, 'telephones', member) })"
        @update:model-value="set(member, $event)"
      />
      {{ titleOf(company, 'telephones', member) }}
    </li>
    <li v-if="members.length === 0">
      {{ t('company.membersHaveSkillsChooseThem') }}
    </li>
  </ul>
</template>

<style scoped>
.skills {
  display: grid;
  gap: var(--space-2);
  width: 100%;
}
</style>
