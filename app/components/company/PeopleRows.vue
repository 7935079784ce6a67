<script setup lang="ts">
import type { PeopleRow } from '~~/core/company/people-table'

type Row = Pick<PeopleRow, 'name' | 'verdict'> & { why: PeopleRow['why'] | string, at?: number }

/** What would become of each of many people; whatever is done with them stands beside how many there are. */
const props = defineProps<{ from: string, each: string, rows: readonly Row[] }>()
const count = (verdict: Row['verdict']) => props.rows.filter(row => row.verdict === verdict).length
const shown = ref<Row['verdict'] | 'all'>('all')
const mostShown = 500
const words = {
  all: t('contacts.all'), new: t('contacts.new'), changed: t('contacts.changed'), unchanged: t('contacts.unchanged'), refused: t('contacts.refused'),
}
/** As the server has said it already, or as it is to be said here. */
const whyOf = ({ why }: Row) => typeof why === 'string' ? why : why.map(say).join(', ')
const numbered = computed(() => props.rows.map((row, index) => ({ ...row, at: row.at ?? index + 1 })))
const found = computed(() => numbered.value.filter(({ verdict }) => shown.value === 'all' || verdict === shown.value))
</script>

<template>
  <p class="acts">
    <span>{{ t('company.newChangedAsTheyAre', {
      from, count: count('new'), count2: count('changed'), count3: count('unchanged'), count4: count('refused'),
    }) }}</span>
    <slot />
    <el-radio-group
      v-model="shown"
      size="small"
      :aria-label="t('company.whichRows')"
    >
      <el-radio-button
        v-for="(which, at) in (['all', 'new', 'changed', 'refused'] as const)"
        :key="at"
        :value="which"
      >
        {{ words[which] }}
      </el-radio-button>
    </el-radio-group>
  </p>
  <RecordsTable
    :columns="[each, t('common.name'), t('company.whatBecomesOfIt')]"
    :rows="found.slice(0, mostShown)"
    :key-of="row => String(row.at)"
    :empty="t('company.none')"
  >
    <template #default="{ row }">
      <td>{{ row.at }}</td>
      <td>{{ row.name }}</td>
      <td><strong>{{ words[row.verdict] }}</strong>{{ whyOf(row) && `: ${whyOf(row)}` }}</td>
    </template>
  </RecordsTable>
  <p
    v-if="found.length > mostShown"
    class="soft"
  >
    {{ t('company.andMore', { n: found.length - mostShown }) }}
  </p>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  align-items: center;
  padding-block: var(--space-4);
}
</style>
