<script setup lang="ts">
import { sankey, sankeyLinkHorizontal } from 'd3-sankey'

/** Calls flow from lines to where they waited first, and on to where they went: the wider the more. */
const props = defineProps<{ links: readonly { from: string, to: string, calls: number }[], nameOf: (end: string) => string }>()

const [width, height] = [1180, 380]
interface End { id: string }
const graph = computed(() => {
  const ids = [...new Set(props.links.flatMap(({ from, to }) => [from, to]))]
  if (ids.length === 0) return null
  return sankey<End, object>().nodeId(({ id }) => id).nodeWidth(8).nodePadding(9).extent([[1, 4], [width - 210, height - 4]])({
    nodes: ids.map(id => ({ id })),
    links: props.links.map(({ from, to, calls }) => ({ source: from, target: to, value: calls })),
  })
})
const path = sankeyLinkHorizontal()
</script>

<template>
  <svg
    v-if="graph"
    class="chart"
    :viewBox="`0 0 ${width} ${height}`"
    aria-hidden="true"
  >
    <path
      v-for="(link, at) in graph.links"
      :key="at"
      class="link"
      :d="path(link) ?? ''"
      :stroke-width="Math.max(1, link.width ?? 1)"
    />
    <g
      v-for="node in graph.nodes"
      :key="node.id"
    >
      <rect
        class="part shade-within"
        :x="node.x0"
        :y="node.y0"
        :width="(node.x1 ?? 0) - (node.x0 ?? 0)"
        :height="Math.max(1, (node.y1 ?? 0) - (node.y0 ?? 0))"
      />
      <text
        :x="(node.x1 ?? 0) + 4"
        :y="((node.y0 ?? 0) + (node.y1 ?? 0)) / 2 + 4"
      >
        {{ nameOf(node.id) }} {{ node.value }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.link {
  fill: none;
  stroke: var(--edge-strong);
  stroke-opacity: 0.35;
}

.chart text {
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
}
</style>
