<script setup lang="ts">
import type { CallId } from '~~/core/calls/model'
import { useQueues } from '~/stores/queues'

useHead({ title: t('watch.watchingEstafette') })

/** For whoever answers for the whole: everything at once, and a queue opened beside it with all that can be done there. */
const queues = useQueues()
/** The call that is seen from near; or a queue, never both. */
const chosen = ref<CallId | null>(null)
function choose(call: CallId): void {
  queues.open(null)
  chosen.value = call
}
watch(() => queues.opened?.id, (opened) => {
  if (opened) chosen.value = null
})
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <FiguresHead :title="t('common.watching')" />
      <NuxtLink
        to="/wall"
        class="wall"
      >
        {{ t('watch.forAWall') }}
      </NuxtLink>
    </div>
    <div class="watch">
      <WatchBoard @choose="choose" />
      <WatchCall
        v-if="chosen"
        :id="chosen"
        :key="chosen"
        @close="chosen = null"
      />
      <QueuePanel
        v-else-if="queues.opened"
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
