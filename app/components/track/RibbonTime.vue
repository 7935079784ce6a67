<script setup lang="ts">
import { filled, type Heat, marks } from '~~/core/console/lateness'

const props = defineProps<{
  /** The part of the promise that is used up; over 1 it is broken. */
  used: number
  heat: Heat
}>()

const whole = 1000
/** One stretch up to the promise, and one more for each time that it is marked: how late stays plain without a digit. */
const bands = computed(() => {
  const begins = [0, ...marks.map(({ at }) => at)]
  const length = filled(props.used)
  return begins.map((from, index) => ({ from: from * whole, length: (Math.min(begins[index + 1] ?? 1, length) - from) * whole }))
    .filter(band => band.length > 0)
})
</script>

<template>
  <svg
    :class="heat"
    :viewBox="`0 0 ${whole} 10`"
    preserveAspectRatio="none"
    aria-hidden="true"
  >
    <rect
      v-for="(band, index) in bands"
      :key="index"
      :class="`band-${index}`"
      :x="band.from"
      :width="band.length"
      height="10"
    />
    <line
      v-for="{ times, at } in marks"
      :key="times"
      :class="{ promise: times === 1 }"
      :x1="at * whole"
      :x2="at * whole"
      y1="0"
      y2="10"
    />
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

rect {
  fill: var(--time);
}

.warm rect {
  fill: var(--time-warm);
}

.late .band-0,
.late .band-1 {
  fill: var(--time-late);
}

.late .band-2 {
  fill: var(--time-later);
}

.late .band-3,
.late .band-4 {
  fill: var(--time-latest);
}

line {
  stroke: var(--edge);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}

.late line {
  stroke: var(--paper);
}

.promise,
.late .promise {
  stroke: var(--ink-soft);
  stroke-dasharray: 2 2;
}
</style>
