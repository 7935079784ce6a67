<script setup lang="ts">
import { useQueues } from '~/stores/queues'

useHead({ title: 'Watching · Estafette' })

/** For whoever answers for the whole: everything at once, and a queue opened beside it with all that can be done there. */
const queues = useQueues()
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <FiguresHead title="Watching" />
      <NuxtLink
        to="/wall"
        class="wall"
      >
        For a wall
      </NuxtLink>
    </div>
    <div class="watch">
      <WatchBoard />
      <QueuePanel
        v-if="queues.opened"
        :key="queues.opened.id"
        :board="queues.opened"
      />
    </div>
  </div>
</template>

<style scoped>
.watch {
  display: flex;
  flex: 1;
  gap: var(--space-4);
  min-height: 0;
}

.wall {
  color: var(--ink-soft);
}

.watch :deep(.panel) {
  flex: 0 0 22rem;
}
</style>
