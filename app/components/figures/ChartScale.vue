<script setup lang="ts">
/** The lines across a chart, each with what it stands for. */
defineProps<{
  ticks: readonly { at: number, words: string }[]
  from: number
  to: number
}>()
</script>

<template>
  <g
    v-for="tick in ticks"
    :key="tick.words"
  >
    <line
      class="axis"
      :x1="from"
      :x2="to"
      :y1="tick.at"
      :y2="tick.at"
    />
    <text
      :x="from - 6"
      :y="tick.at + 4"
      text-anchor="end"
    >
      {{ tick.words }}
    </text>
  </g>
</template>
