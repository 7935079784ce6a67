<script setup lang="ts">
import type { LevelRule } from '~~/core/figures/service-level'
import type { Figures, figureTables } from '~~/shared/figures'
import { useLive } from '~/stores/live'

/** Every chart of a report. */
const props = defineProps<{
  report: Figures
  before: Figures | null
  rule: LevelRule
  ofQueue: boolean
  fileOf: (table: typeof figureTables[number]) => string
}>()
const live = useLive()
const charts = computed(() => chartsOf({ ...props, company: live.company ?? null }))
</script>

<template>
  <div class="charts">
    <ChartFigure
      v-for="chart in charts"
      :key="chart.title"
      :title="chart.title"
      :words="chart.words"
      :warning="chart.warning"
      :compared="chart.compared"
      :legend="chart.kind === 'bars' ? chart.legend : undefined"
      :columns="chart.columns"
      :rows="chart.rows"
      :file="chart.table && fileOf(chart.table)"
      :wide="chart.wide"
    >
      <StackedBars
        v-if="chart.kind === 'bars'"
        :labels="chart.labels"
        :series="chart.series"
        :earlier="chart.earlier"
        :every="chart.every"
      />
      <LevelLine
        v-else-if="chart.kind === 'level'"
        :labels="chart.labels"
        :values="chart.values"
        :earlier="chart.earlier"
        :every="chart.every"
      />
      <RowBars
        v-else-if="chart.kind === 'rows'"
        :rows="chart.bars"
        :shade="chart.shade"
        :most="chart.most"
      />
      <FlowChart
        v-else
        :links="chart.links"
        :name-of="chart.nameOf"
      />
    </ChartFigure>
  </div>
</template>

<style scoped>
.charts {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  grid-auto-flow: dense;
  gap: var(--space-4);
}

@media (max-width: 60rem) {
  .charts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
