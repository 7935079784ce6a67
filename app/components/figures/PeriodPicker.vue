<script setup lang="ts">
import type { Dayjs } from 'dayjs'

/** A period of whole days; those that are asked for most are one choice away. */
const period = defineModel<Period>({ required: true })
const today = useToday()

const shortcuts = computed(() => {
  const last = today.value
  const since = (from: Dayjs, to = last) => (): Period => [from.toDate(), to.toDate()]
  const yesterday = last.subtract(1, 'day')
  return [
    { text: t('common.today'), value: since(last) },
    { text: t('figures.yesterday'), value: since(yesterday, yesterday) },
    { text: t('figures.last7Days'), value: since(last.subtract(6, 'day')) },
    { text: t('figures.last28Days'), value: since(last.subtract(27, 'day')) },
    { text: t('figures.thisMonth'), value: since(last.startOf('month')) },
    { text: t('figures.last12Months'), value: since(last.subtract(1, 'year').add(1, 'day')) },
  ]
})
</script>

<template>
  <el-date-picker
    v-model="period"
    type="daterange"
    :clearable="false"
    :shortcuts="shortcuts"
    format="D MMM YYYY"
    :start-placeholder="t('common.from')"
    :end-placeholder="t('common.to')"
    :aria-label="t('figures.period')"
  />
</template>
