<script setup lang="ts">
import { max, sum } from 'd3-array'
import { scaleBand, scaleLinear } from 'd3-scale'

/** Bars side by side, each of parts that stand on each other; what there was in an earlier period is a mark across each. */
const props = defineProps<{
  labels: readonly string[]
  series: readonly { name: string, shade: string, values: readonly number[] }[]
  earlier?: readonly number[] | null
  /** Every how manyth label is written. */
  every?: number
  /** Higher, where there is room for it. */
  high?: boolean
}>()

/** At the right there is room for half of the last label. */
const [width, height, left, right, bottom, top] = [560, props.high ? 330 : 190, 40, 10, 20, 8]
const x = computed(() => scaleBand<number>().domain(props.labels.map((_label, at) => at)).range([left, width - right]).padding(0.15))
const highest = computed(() => max([...props.labels.map((_label, at) => sum(props.series, ({ values }) => values[at] ?? 0)), ...props.earlier ?? []]) || 1)
const y = computed(() => scaleLinear().domain([0, highest.value]).nice(4).range([height - bottom, top]))
const parts = computed(() => props.labels.flatMap((_label, at) => {
  let below = 0
  return props.series.flatMap(({ shade, values }) => {
    const value = values[at] ?? 0
    if (value <= 0) return []
    const [from, to] = [y.value(below), y.value(below += value)]
    return [{ key: `${at} ${shade}`, shade, x: x.value(at)!, y: to, height: from - to }]
  })
}))
</script>

<template>
  <svg
    class="chart"
    :viewBox="`0 0 ${width} ${height}`"
    aria-hidden="true"
  >
    <ChartScale
      :ticks="y.ticks(4).map(tick => ({ at: y(tick), words: tick.toLocaleString('en-GB') }))"
      :from="left"
      :to="width"
    />
    <rect
      v-for="part in parts"
      :key="part.key"
      :class="['part', `shade-${part.shade}`]"
      :x="part.x"
      :y="part.y"
      :width="x.bandwidth()"
      :height="part.height"
    />
    <line
      v-for="(value, at) in earlier ?? []"
      :key="at"
      class="earlier"
      :x1="x(at)"
      :x2="(x(at) ?? 0) + x.bandwidth()"
      :y1="y(value)"
      :y2="y(value)"
    />
    <template
      v-for="(label, at) in labels"
      :key="at"
    >
      <text
        v-if="at % (every ?? 1) === 0"
        :x="(x(at) ?? 0) + x.bandwidth() / 2"
        :y="height - 5"
        text-anchor="middle"
      >
        {{ label }}
      </text>
    </template>
  </svg>
</template>
