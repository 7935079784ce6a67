<script setup lang="ts">
import type { CallBack } from '~~/core/calls/model'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

/** Who has left a queue and keeps their place in it, to be called back. */
defineProps<{ promise: CallBack }>()
const desk = useDesk()
const live = useLive()
const { callerOf, standing } = useCallBackWords()
</script>

<template>
  <li class="promise">
    <p>
      <span>{{ spell(desk.now - promise.since) }}</span> <strong>{{ callerOf(promise) }}</strong>
    </p>
    <p class="stands">
      {{ t('queues.toBeCalledBack', { standing: standing(promise) }) }}
    </p>
    <p
      v-if="desk.operates"
      class="acts"
    >
      <el-button
        size="small"
        :disabled="!live.working"
        :aria-label="t('queues.callBackNow', { callerOf: callerOf(promise) })"
        @click="desk.ask({ service: 'makeCallBack', callBack: promise.id })"
      >
        {{ t('queues.callBackNow2') }}
      </el-button>
      <NuxtLink to="/call-backs">
        {{ t('queues.allCallBacks') }}
      </NuxtLink>
    </p>
  </li>
</template>

<style scoped>
.promise {
  display: grid;
  gap: var(--space-1);
  padding: var(--space-2) var(--space-3);
  border: 1px dashed var(--edge-strong);
  border-radius: var(--round);
}

.stands {
  color: var(--ink-soft);
}

.acts {
  display: flex;
  gap: var(--space-3);
  align-items: center;
}

.acts a {
  color: inherit;
}
</style>
