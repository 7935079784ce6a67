<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import type { LogPage, LogRow } from '~~/shared/log'

/** The latest calls with a number outside (E.164; null: none is known), but for one; or those of a telephone of ours. */
const props = defineProps<{ number: string | null, device?: string, except?: string }>()
const shown = 8

const earlier = ref<LogRow[] | null>(null)
const failure = ref<string | null>(null)
watch(() => [props.except, props.number, props.device] as const, async ([except, number, device]) => {
  earlier.value = null
  failure.value = null
  if (!number && !device) return
  try {
    const { rows } = await $fetch<LogPage>('/api/calls', { query: { ...(device ? { device } : { number }), limit: shown + 1 } })
    if (props.number === number && props.except === except && props.device === device) earlier.value = rows.filter(row => row.id !== except).slice(0, shown)
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}, { immediate: true })
const words = computed(() => {
  if (!props.number && !props.device) return t('log.noNumberIsKnownNothing')
  if (!earlier.value) return t('log.looking')
  return props.device ? t('log.noCallYet') : t('log.noOtherCallWithThis')
})
</script>

<template>
  <ul v-if="earlier?.length">
    <li
      v-for="row in earlier"
      :key="row.id"
    >
      <span class="at">{{ shownAt(row.startedAt).format('D MMM H:mm') }}</span>
      <span>{{ device ? `${whoCalled(row)}: ` : '' }}{{ becameOf(row) }}</span>
      <span class="lasted">{{ row.answeredAt && row.endedAt ? spell(row.endedAt - row.answeredAt) : '' }}</span>
    </li>
  </ul>
  <p
    v-else
    class="soft"
  >
    {{ failure ?? words }}
  </p>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 5.4rem 1fr auto;
  gap: var(--space-3);
  padding: var(--space-1) 0;
  border-bottom: var(--line);
  font-size: var(--type-2);
}

.at,
.lasted,
.soft {
  color: var(--ink-soft);
}
</style>
