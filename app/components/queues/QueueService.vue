<script setup lang="ts">
import type { QueueAbsence } from '~~/core/calls/model'
import { useLive } from '~/stores/live'

/** Pauses a member of a queue with a reason, lets them leave it, or brings them back: by themselves at their telephone, or by an operator. */
type Service = { service: 'setQueueServed', queue: string, state: 'serving' | 'paused' | 'left', reason?: string }
const props = defineProps<{ queue: string, member: string, name: string, absence?: QueueAbsence, ask: (request: Service) => unknown }>()
const live = useLive()

const reasons = computed(() => live.company?.settings.pauseReasons ?? [])
const mayLeave = computed(() => live.company?.groups[props.queue]?.voluntary.includes(props.member))

function choose(choice: string): void {
  const [state, ...reason] = choice.split(' ') as [Service['state'], ...string[]]
  props.ask({ service: 'setQueueServed', queue: props.queue, state, ...(state === 'paused' && { reason: reason.join(' ') }) })
}
</script>

<template>
  <el-dropdown
    trigger="click"
    :disabled="!live.working"
    @command="choose"
  >
    <el-button
      size="small"
      text
      :aria-label="`${name}: pause or serve`"
    >
      ⋯
    </el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-if="absence"
          command="serving"
        >
          Serve again
        </el-dropdown-item>
        <el-dropdown-item
          v-for="reason in reasons"
          :key="reason"
          :command="`paused ${reason}`"
        >
          Pause: {{ reason }}
        </el-dropdown-item>
        <el-dropdown-item
          v-if="mayLeave && absence?.state !== 'left'"
          command="left"
        >
          Leave the queue
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
