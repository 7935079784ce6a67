<script setup lang="ts">
import { max } from 'd3-array'
import { scaleLinear } from 'd3-scale'

/** One bar a row, with its name before it and its value in words behind. */
const props = defineProps<{
  rows: readonly { name: string, value: number, words: string }[]
  shade: string
  /** Where the scale ends; without it, at the longest. */
  most?: number
}>()

const [width, row, left, right] = [560, 22, 170, 110]
const x = computed(() => scaleLinear().domain([0, (props.most ?? max(props.rows, ({ value }) => value)) || 1]).range([0, width - left - right]))
</script>

<template>
  <svg
    v-if="rows.length"
    class="chart"
    :viewBox="`0 0 ${width} ${rows.length * row}`"
    aria-hidden="true"
  >
    <g
      v-for="(one, at) in rows"
      :key="one.name"
    >
      <text
        :x="left - 6"
        :y="at * row + 15"
        text-anchor="end"
      >{{ one.name }}</text>
      <rect
        :class="['part', `shade-${shade}`]"
        :x="left"
        :y="at * row + 4"
        :width="Math.max(1, x(one.value))"
        :height="row - 8"
      />
      <text
        :x="left + x(one.value) + 6"
        :y="at * row + 15"
      >{{ one.words }}</text>
    </g>
  </svg>
</template>
