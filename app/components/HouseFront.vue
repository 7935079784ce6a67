<script setup lang="ts">
/** A house front at the quay: some windows lit, some not. For the eye alone. */
const columns = 9
const rows = 11
const unlit = new Set([3, 7, 12, 13, 20, 26, 31, 38, 40, 47, 48, 55, 60, 66, 71, 79, 80, 85, 90, 94])
const windows = Array.from({ length: columns * rows }, (_, index) => ({
  x: 40 + index % columns * 64,
  y: 40 + Math.floor(index / columns) * 58,
  lit: !unlit.has(index),
}))
</script>

<template>
  <svg
    viewBox="0 0 640 700"
    preserveAspectRatio="xMidYMid slice"
    aria-hidden="true"
    class="front"
  >
    <rect
      width="640"
      height="700"
      class="wall"
    />
    <rect
      v-for="(window, index) in windows"
      :key="index"
      :x="window.x"
      :y="window.y"
      width="48"
      height="38"
      rx="2"
      :class="window.lit ? 'lit' : 'unlit'"
    />
    <path
      d="M0 560 H250 C330 560 300 330 390 330 H640"
      class="ribbon"
    />
    <circle
      cx="390"
      cy="330"
      r="15"
      class="baton"
    />
  </svg>
</template>

<style scoped>
.wall {
  fill: var(--paper-deep);
}

.lit {
  fill: var(--lit);
  stroke: var(--lit-edge);
}

.unlit {
  fill: var(--dark);
}

.ribbon {
  fill: none;
  stroke: var(--ink);
  stroke-width: 14;
  stroke-linecap: round;
}

.baton {
  fill: var(--time-late);
  stroke: var(--ink);
  stroke-width: 4;
}
</style>
