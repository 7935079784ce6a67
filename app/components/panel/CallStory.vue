<script setup lang="ts">
import dayjs from 'dayjs'
import type { Call } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import { connectionOf } from '~~/core/calls/questions'
import { tellStory } from '~~/core/calls/story'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const props = defineProps<{ call: Call }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()

function nameOf(device: string): string {
  const ours = live.state && deviceName(live.state.company, device) !== null
  // An outside party who has left is still the one whom the call was with.
  return directory.nameOf(device, connectionOf(props.call, device)?.party ?? (ours ? null : props.call.party))
}

const sentences = computed(() => tellStory(props.call.story, nameOf))
</script>

<template>
  <ol class="story">
    <li
      v-for="(sentence, index) in sentences"
      :key="index"
    >
      <span class="at">{{ dayjs(live.wall(sentence.at)).format('H:mm:ss') }}</span>
      <span>{{ sentence.text }}</span>
      <span class="lasted">{{ spell(sentence.lasted ?? desk.now - sentence.at) }}</span>
    </li>
  </ol>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 4rem 1fr auto;
  gap: var(--space-3);
  padding: var(--space-1) 0;
  border-bottom: var(--line);
}

.at,
.lasted {
  color: var(--ink-soft);
}
</style>
