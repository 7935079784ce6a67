<script setup lang="ts">
import { scaleLinear, scalePoint } from 'd3-scale'
import { line } from 'd3-shape'

/** A share over time, from 0 to 100 in the hundred; where there is none the line has a gap. */
const props = defineProps<{ labels: readonly string[], values: readonly (number | null)[], earlier?: readonly (number | null)[] | null, every?: number }>()

const [width, height, left, bottom, top] = [560, 190, 40, 20, 10]
const x = computed(() => scalePoint<number>().domain(props.labels.map((_label, at) => at)).range([left + 10, width - 18]))
const y = scaleLinear().domain([0, 1]).range([height - bottom, top])
const pathOf = (values: readonly (number | null)[]) => line<number | null>()
  .defined(value => value !== null).x((_value, at) => x.value(at) ?? 0).y(value => y(value ?? 0))([...values])
</script>

<template>
  <svg
    class="chart"
    :viewBox="`0 0 ${width} ${height}`"
    aria-hidden="true"
  >
    <ChartScale
      :ticks="[0, 0.25, 0.5, 0.75, 1].map(tick => ({ at: y(tick), words: String(tick * 100) }))"
      :from="left"
      :to="width"
    />
    <path
      v-if="earlier"
      class="before"
      :d="pathOf(earlier) ?? ''"
    />
    <path
      class="line"
      :d="pathOf(values) ?? ''"
    />
    <template
      v-for="(value, at) in values"
      :key="at"
    >
      <circle
        v-if="value !== null"
        :cx="x(at)"
        :cy="y(value)"
        r="3"
      />
      <text
        v-if="at % (every ?? 1) === 0"
        :x="x(at)"
        :y="height - 5"
        text-anchor="middle"
      >
        {{ labels[at] }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
.line,
.before {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.75;
}

.before {
  stroke-width: 1;
  stroke-dasharray: 4 3;
}

circle {
  fill: var(--ink);
}
</style>
