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
    { text: 'Today', value: since(last) },
    { text: 'Yesterday', value: since(yesterday, yesterday) },
    { text: 'Last 7 days', value: since(last.subtract(6, 'day')) },
    { text: 'Last 28 days', value: since(last.subtract(27, 'day')) },
    { text: 'This month', value: since(last.startOf('month')) },
    { text: 'Last 12 months', value: since(last.subtract(1, 'year').add(1, 'day')) },
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
    start-placeholder="From"
    end-placeholder="To"
    aria-label="Period"
  />
</template>
