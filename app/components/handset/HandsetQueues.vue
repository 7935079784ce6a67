<script setup lang="ts">
import { callsOf, queueOf } from '~~/core/calls/questions'
import { groupsOf } from '~~/core/company/lookups'
import { spell } from '~~/core/durations/durations'
import type { Handset } from '~/composables/handset'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** The queues that the owner of a telephone serves: who waits there, to be taken; pausing, leaving, coming back. */
const props = defineProps<{ handset: Handset, name: string }>()
const live = useLive()
const directory = useDirectory()
const desk = useDesk()

const queues = computed(() => {
  const { state } = live
  if (!state) return []
  const { groups, settings } = state.company
  return [...groupsOf(state.company, props.handset.device)].flatMap((id) => {
    const group = groups[id]
    if (group?.distribution !== 'queue' || id === settings.operators) return []
    const waiting = callsOf(state, id).filter(call => queueOf(call)?.device === id).map(call => ({ call, since: queueOf(call)!.since }))
    return [{ id, name: group.name, waiting, absence: state.devices.get(props.handset.device)?.absences?.[id] }]
  })
})
</script>

<template>
  <section
    v-for="queue in queues"
    :key="queue.id"
    class="queue"
    :aria-label="queue.name"
  >
    <p class="head">
      <span>{{ queue.name }}: {{ queue.absence ? absenceWords(queue.absence, desk.now) : t('handset.serving') }}</span>
      <QueueService
        :queue="queue.id"
        :member="handset.device"
        :name="`${name}, ${queue.name}`"
        :absence="queue.absence"
        :ask="request => handset.ask(request)"
      />
    </p>
    <el-button
      v-for="{ call, since } in queue.waiting"
      :key="call.id"
      size="small"
      @click="handset.ask({ service: 'directedPickupCall', call: call.id })"
    >
      {{ t('handset.takeWaiting', { name: directory.nameOf(call.calling, call.party), time: spell(desk.now - since) }) }}
    </el-button>
  </section>
</template>

<style scoped>
.queue {
  display: grid;
  gap: var(--space-1);
}

.head {
  display: flex;
  gap: var(--space-2);
  align-items: center;
  justify-content: space-between;
}
</style>
