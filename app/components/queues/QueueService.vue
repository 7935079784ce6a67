<script setup lang="ts">
import type { QueueAbsence } from '~~/core/calls/model'
import { useLive } from '~/stores/live'

/** Pauses a member of a queue with a reason, lets them leave it, or brings them back: by themselves at their telephone, or by an operator. */
type Service = { service: 'setQueueServed', queue: string, state: 'serving' | 'paused' | 'left', reason?: string }
const props = defineProps<{ queue: string, member: string, name: string, absence?: QueueAbsence, ask: (request: Service) => unknown }>()
const live = useLive()

const reasons = computed(() => live.company?.settings.pauseReasons ?? [])
const mayLeave = computed(() => live.company?.groups[props.queue]?.voluntary.includes(props.member))

const choices = computed(() => [
  ...(props.absence ? [{ id: 'serving', label: t('queues.serveAgain') }] : []),
  ...reasons.value.map(reason => ({ id: `paused ${reason}`, label: t('queues.pauseReason', { reason }) })),
  ...(mayLeave.value && props.absence?.state !== 'left' ? [{ id: 'left', label: t('queues.leaveTheQueue') }] : []),
])

function choose(choice: string): void {
  const [state, ...reason] = choice.split(' ') as [Service['state'], ...string[]]
  props.ask({ service: 'setQueueServed', queue: props.queue, state, ...(state === 'paused' && { reason: reason.join(' ') }) })
}
</script>

<template>
  <ChoiceMenu
    :choices="choices"
    :disabled="!live.working"
    @choose="choose"
  >
    <el-button
      size="small"
      text
      :aria-label="t('queues.pauseOrServe', { name })"
    >
      ⋯
    </el-button>
  </ChoiceMenu>
</template>
