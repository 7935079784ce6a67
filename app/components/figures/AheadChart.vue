<script setup lang="ts">
import { max } from 'd3-array'
import { scaleBand, scaleLinear } from 'd3-scale'

/** Calls that the coming half-hours bring, each with its spread, and above them how many people they need; boxed where that is more than are there. */
const props = defineProps<{ labels: readonly string[], hours: readonly { mean: number, low: number, high: number, people: number | null }[], there: number }>()

const [width, height, left, bottom, top] = [1180, 260, 36, 20, 34]
const x = computed(() => scaleBand<number>().domain(props.hours.map((_hour, at) => at)).range([left, width]).padding(0.2))
const y = computed(() => scaleLinear().domain([0, max(props.hours, ({ high }) => high) || 1]).nice(4).range([height - bottom, top]))
const middle = (at: number) => (x.value(at) ?? 0) + x.value.bandwidth() / 2
const isShort = (people: number | null) => people === null || people > props.there
</script>

<template>
  <svg
    class="chart"
    :viewBox="`0 0 ${width} ${height}`"
    aria-hidden="true"
  >
    <ChartScale
      :ticks="y.ticks(4).map(tick => ({ at: y(tick), words: String(tick) }))"
      :from="left"
      :to="width"
    />
    <g
      v-for="(hour, at) in hours"
      :key="at"
    >
      <rect
        class="part shade-other"
        :x="x(at)"
        :y="y(hour.mean)"
        :width="x.bandwidth()"
        :height="y(0) - y(hour.mean)"
      />
      <path
        v-if="hour.high > 0"
        class="spread"
        :d="`M${middle(at)} ${y(hour.low)}V${y(hour.high)}m-5 0h10M${middle(at) - 5} ${y(hour.low)}h10`"
      />
      <template v-if="hour.mean > 0.05">
        <rect
          v-if="isShort(hour.people)"
          class="short"
          :x="middle(at) - 14"
          y="4"
          width="28"
          height="20"
        />
        <text
          :class="['people', { lacking: isShort(hour.people) }]"
          :x="middle(at)"
          y="19"
          text-anchor="middle"
        >{{ hour.people ?? '…' }}</text>
      </template>
      <text
        v-if="at % 2 === 0 || labels[at]!.includes(' ')"
        :x="middle(at)"
        :y="height - 5"
        text-anchor="middle"
      >{{ labels[at] }}</text>
    </g>
  </svg>
</template>

<style scoped>
.spread {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1.25;
}

.chart .people {
  fill: var(--ink);
  font: 700 15px var(--font-sign);
}

.short {
  fill: var(--time-latest);
}

.chart .lacking {
  fill: var(--on-late);
}
</style>
