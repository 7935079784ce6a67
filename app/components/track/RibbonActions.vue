<script setup lang="ts">
import { type Ribbon, useDesk } from '~/stores/desk'
import { useEnding } from '~/composables/ending'
import { useLive } from '~/stores/live'

const props = defineProps<{ ribbon: Ribbon, isNext: boolean }>()
const desk = useDesk()
const live = useLive()
const ending = useEnding()

const call = computed(() => props.ribbon.call.id)
const waiting = computed(() => props.ribbon.due.waiting)
const first = computed(() => desk.held.length === 1 || desk.held[0]?.call.id === call.value)
const name = computed(() => desk.otherName(props.ribbon.call))
</script>

<template>
  <div class="actions">
    <el-button
      v-if="ribbon.stretch === 'arriving'"
      class="call"
      :disabled="!live.working"
      :aria-label="`Answer ${name}`"
      @click="desk.ask({ service: 'answerCall', call })"
    >
      Answer <kbd v-if="isNext">Enter</kbd>
    </el-button>
    <template v-else-if="ribbon.stretch === 'inHand'">
      <el-button
        v-if="waiting === 'hold'"
        :disabled="!live.working"
        :aria-label="`Take back ${name}`"
        @click="desk.ask({ service: 'retrieveCall', call })"
      >
        Take back <kbd v-if="first && !desk.talking">Space</kbd>
      </el-button>
      <template v-else>
        <el-button
          v-if="waiting === 'none'"
          :disabled="!live.working"
          :aria-label="`Hold ${name}`"
          @click="desk.ask({ service: 'holdCall', call })"
        >
          Hold <kbd>Space</kbd>
        </el-button>
        <el-button
          :class="{ sure: ending.asked.value === call }"
          :disabled="!live.working"
          :aria-label="ending.asked.value === call ? `End the call with ${name}: press again` : `End the call with ${name}`"
          @click="ending.end(ribbon)"
        >
          {{ ending.asked.value === call ? 'Press again' : 'End' }} <kbd>Del</kbd>
        </el-button>
      </template>
    </template>
  </div>
</template>

<style scoped>
.actions {
  position: relative;
  display: flex;
  flex-direction: column;
  gap: var(--space-2);
}

.actions .el-button {
  margin: 0;
  --el-button-size: 1.75rem;
  height: 1.75rem;
  padding-inline: var(--space-4);
}

.actions kbd {
  margin-left: var(--space-3);
}

.el-button.call {
  --el-button-bg-color: var(--ink);
  --el-button-text-color: var(--paper);
  --el-button-border-color: var(--ink);
  --el-button-hover-bg-color: var(--ink-soft);
  --el-button-hover-text-color: var(--paper);
  --el-button-active-bg-color: var(--ink);
  --el-button-disabled-bg-color: var(--edge-strong);
  --el-button-disabled-text-color: var(--paper);
}

.el-button.sure {
  --el-button-bg-color: var(--alarm);
  --el-button-text-color: var(--alarm-ink);
  --el-button-border-color: var(--alarm);
  --el-button-hover-bg-color: var(--alarm);
  --el-button-hover-text-color: var(--alarm-ink);
}
</style>
