<script setup lang="ts">
import { max } from 'd3-array'
import { scaleBand, scaleLinear } from 'd3-scale'

/** Calls that the coming half-hours bring, each with its spread, and over them how many people they need. */
const props = defineProps<{ labels: readonly string[], hours: readonly { mean: number, low: number, high: number, people: number | null }[], there: number }>()

const [width, height, left, right, bottom, top] = [860, 260, 36, 36, 20, 12]
const x = computed(() => scaleBand<number>().domain(props.hours.map((_hour, at) => at)).range([left, width - right]).padding(0.2))
const y = computed(() => scaleLinear().domain([0, max(props.hours, ({ high }) => high) || 1]).nice(4).range([height - bottom, top]))
const most = computed(() => Math.max(1, props.there, ...props.hours.map(one => one.people ?? 0)))
const people = computed(() => scaleLinear().domain([0, most.value + 1]).range([height - bottom, top]))
const middle = (at: number) => (x.value(at) ?? 0) + x.value.bandwidth() / 2
</script>

<template>
  <svg
    class="chart"
    :viewBox="`0 0 ${width} ${height}`"
    aria-hidden="true"
  >
    <g
      v-for="tick in y.ticks(4)"
      :key="tick"
    >
      <line
        class="axis"
        :x1="left"
        :x2="width - right"
        :y1="y(tick)"
        :y2="y(tick)"
      />
      <text
        :x="left - 6"
        :y="y(tick) + 4"
        text-anchor="end"
      >{{ tick }}</text>
    </g>
    <line
      class="there"
      :x1="left"
      :x2="width - right"
      :y1="people(there)"
      :y2="people(there)"
    />
    <text
      class="people"
      :x="width - right + 6"
      :y="people(there) + 4"
    >{{ there }}</text>
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
      <line
        v-if="hour.high > 0"
        class="spread"
        :x1="middle(at)"
        :x2="middle(at)"
        :y1="y(hour.low)"
        :y2="y(hour.high)"
      />
      <template v-if="hour.people !== null && hour.mean > 0">
        <line
          :class="['need', { short: hour.people > there }]"
          :x1="(x(at) ?? 0) - 2"
          :x2="(x(at) ?? 0) + x.bandwidth() + 2"
          :y1="people(hour.people)"
          :y2="people(hour.people)"
        />
        <text
          class="people"
          :x="middle(at)"
          :y="people(hour.people) - 5"
          text-anchor="middle"
        >{{ hour.people }}</text>
      </template>
      <text
        v-if="at % 2 === 0"
        :x="middle(at)"
        :y="height - 5"
        text-anchor="middle"
      >{{ labels[at] }}</text>
    </g>
  </svg>
</template>

<style scoped>
.spread {
  stroke: var(--ink-soft);
  stroke-width: 1.5;
}

.need {
  stroke: var(--ink);
  stroke-width: 3;
}

.need.short {
  stroke: var(--time-latest);
}

.there {
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 5 4;
}

.chart .people {
  fill: var(--ink);
  font-weight: 700;
}
</style>
