<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { isDeserted } from '~~/core/queues/board'
import { heatOf } from '~~/core/console/lateness'
import { useCarrying } from '~/stores/carrying'
import { useDesk } from '~/stores/desk'
import { useQueues } from '~/stores/queues'
import { useSpeedKeys } from '~/stores/speed-keys'

/** Every queue at a glance: who waits and how long, against the promise, and how many could answer. Each keeps its place and its size. */
const queues = useQueues()
const desk = useDesk()
const carrying = useCarrying()
const speedKeys = useSpeedKeys()

const shelf = computed(() => queues.boards.map((board) => {
  const used = queues.usedOf(board)
  return {
    id: board.id,
    name: board.name.replace(/ queue$/, ''),
    waits: board.since === null ? '' : `${board.waiting.length} · ${spell(desk.now - board.since)}`,
    serving: !board.open ? t('queues.closed') : isDeserted(board) ? t('queues.nobody') : t('common.freeFree', { free: board.serving.free }),
    deserted: !board.open || isDeserted(board),
    level: queues.levelOf(board.id),
    used,
    heat: heatOf(used),
    words: queues.wordsOf(board),
  }
}))
</script>

<template>
  <section
    v-if="shelf.length"
    class="queues"
    aria-labelledby="queues-title"
  >
    <h2 id="queues-title">
      <span>{{ t('queues.queues') }}</span>
      <span class="keys"><kbd>=</kbd> {{ t('queues.open') }}</span>
    </h2>
    <ul>
      <li
        v-for="queue in shelf"
        :key="queue.id"
        :title="queue.words"
      >
        <button
          v-call-target="queue.id"
          type="button"
          :class="['queue', { waits: queue.waits, deserted: queue.deserted, over: carrying.over?.target === queue.id }]"
          :aria-pressed="queues.opened?.id === queue.id"
          :aria-label="queue.words"
          @keydown.shift.f9.exact.prevent="speedKeys.add(speedKeys.keyOf(queue.id))"
          @click="queues.open(queues.opened?.id === queue.id ? null : queue.id)"
        >
          <RibbonTime
            v-if="queue.waits"
            :used="queue.used"
            :heat="queue.heat"
          />
          <span class="name">{{ queue.name }}</span>
          <span class="waiting">{{ queue.waits || '–' }}</span>
          <span class="serving">{{ queue.serving }}<span class="level">{{ queue.level }}</span></span>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.queues {
  flex: none;
  max-width: 45%;
  padding-right: var(--space-4);
}

ul {
  display: flex;
  gap: var(--space-2);
  overflow-x: auto;
}

.queue {
  width: 5rem;
  font-size: var(--type-1);
  line-height: 1.2;
}

.queue[aria-pressed='true'] {
  border: 2px solid var(--ink);
}

.queue.waits {
  background: var(--paper);
  border-color: var(--edge-strong);
  color: var(--ink);
}

.serving {
  display: flex;
  gap: var(--space-2);
  justify-content: space-between;
}

.level {
  color: var(--ink-soft);
  font-weight: 400;
}

.deserted .serving {
  color: var(--alarm);
  font-weight: 700;
}

.name,
.waiting,
.serving {
  position: relative;
  white-space: nowrap;
}

.name {
  overflow: hidden;
  font-weight: 650;
  text-overflow: ellipsis;
}

.waits .waiting {
  font-weight: 700;
}

@media (max-width: 60rem) {
  .queues {
    display: block;
    max-width: none;
    height: auto;
    padding: 0 var(--space-4) var(--space-2);
  }

  h2 {
    display: flex;
    gap: var(--space-3);
    align-items: baseline;
  }

  ul {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(5.25rem, 1fr));
  }

  .queue {
    width: 100%;
  }
}
</style>
