<script setup lang="ts">
import type { HistoryUnderWay } from '~~/shared/history'
import { useLive } from '~/stores/live'

/** What is said on a page of earlier calls as long as they are still being brought in. */
const emit = defineEmits<{ more: [] }>()
const live = useLive()
const underWay = ref<HistoryUnderWay | null>(null)
const comes = computed(() => underWay.value !== null && underWay.value.done < underWay.value.weeks)

async function look(): Promise<void> {
  const before = underWay.value?.done
  underWay.value = await $fetch<HistoryUnderWay>('/api/history').catch(() => underWay.value)
  if (before !== undefined && underWay.value?.done !== before) emit('more')
}
onMounted(look)
watch(() => live.news.history, () => {
  if (comes.value) void look()
})
</script>

<template>
  <p
    v-if="comes"
    class="history"
  >
    {{ t('frame.theWeeksBeforeTodayAre', { done: underWay!.done, weeks: underWay!.weeks }) }}
    <el-progress
      class="progress"
      :percentage="Math.round(100 * underWay!.done / underWay!.weeks)"
      :show-text="false"
      :aria-label="t('frame.weeksThatAreThere')"
    />
  </p>
</template>

<style scoped>
.history {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-4);
  align-items: center;
  padding: var(--space-3) var(--space-4);
  margin-bottom: var(--space-4);
  background: var(--sheet);
}

.progress {
  flex: 1;
  min-width: 8rem;
}
</style>
