<script setup lang="ts">
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
  const ours = live.company && deviceName(live.company, device) !== null
  // An outside party who has left is still the one whom the call was with.
  return directory.nameOf(device, connectionOf(props.call, device)?.party ?? (ours ? null : props.call.party))
}

const lines = computed(() => tellStory(t, props.call.story, nameOf)
  .map(({ at, text, lasted }) => ({ at: live.wall(at), text, lasted: spell(lasted ?? desk.now - at) })))
</script>

<template>
  <StoryList :lines="lines" />
</template>
