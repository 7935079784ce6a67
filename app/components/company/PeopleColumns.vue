<script setup lang="ts">
import { type Meaning, meanings } from '~~/core/company/people-table'

/** What the columns of a table, or the attributes of a directory, hold: each with a sample, and what it is taken for. */
const props = defineProps<{ legend: string, columns: readonly { name: string, sample: string }[] }>()
const as = defineModel<Meaning[]>({ required: true })
const words: Record<Meaning, string> = {
  nothing: t('company.nothingOfUse'), first: t('company.firstNameInline'), last: t('company.lastNameInline'), name: t('company.wholeName'),
  department: t('company.departmentInline'), role: t('company.role'), room: t('company.roomInline'),
  extension: t('company.extensionInline'), direct: t('company.directNumber'), mobile: t('company.mobile'), nickname: t('company.whatTheyAreCalled'),
  languages: t('company.languages'), note: t('company.note'),
}
const nameOf = (at: number) => props.columns[at]!.name || t('company.columnN', { n: at + 1 })
const choose = (at: number, meaning: Meaning) => as.value = as.value.map((one, index) => index === at ? meaning : one)
</script>

<template>
  <fieldset class="columns">
    <legend>{{ legend }}</legend>
    <div
      v-for="(column, at) in columns"
      :key="at"
      class="column"
    >
      <span class="named">{{ nameOf(at) }}</span>
      <span class="soft">{{ column.sample || t('company.empty') }}</span>
      <el-select
        :model-value="as[at]"
        size="small"
        :aria-label="t('company.whatHolds', { name: nameOf(at) })"
        @update:model-value="choose(at, $event as Meaning)"
      >
        <el-option
          v-for="meaning in meanings"
          :key="meaning"
          :value="meaning"
          :label="words[meaning]"
        />
      </el-select>
    </div>
  </fieldset>
</template>

<style scoped>
.columns {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  padding: var(--space-4) 0;
  margin: 0;
  border: 0;
}

.columns legend {
  padding: 0;
  color: var(--ink-soft);
}

.column {
  display: grid;
  gap: var(--space-2);
  width: 11rem;
}

.named {
  font-weight: 700;
  overflow-wrap: anywhere;
}

.soft {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
