<script setup lang="ts">
const props = defineProps<{
  /** The part of the promise that is used up; over 1 it is broken. */
  used: number
  heat: 'calm' | 'warm' | 'late'
}>()

/** The promise is drawn at 100 of 150: what is later sticks out beyond the line. */
const length = computed(() => Math.min(150, props.used * 100))
</script>

<template>
  <svg
    :class="heat"
    viewBox="0 0 150 10"
    preserveAspectRatio="none"
    aria-hidden="true"
  >
    <rect
      x="0"
      y="0"
      :width="length"
      height="10"
    />
    <line
      x1="100"
      x2="100"
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

.late rect {
  fill: var(--time-late);
}

line {
  stroke: var(--ink-soft);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
  stroke-dasharray: 2 2;
}
</style>
