<script setup lang="ts">
import dayjs from 'dayjs'
import { spell } from '~~/core/durations/durations'
import { deviceName } from '~~/core/calls/names'
import { connectionOf } from '~~/core/calls/questions'
import { tellStory } from '~~/core/calls/story'
import type { Call } from '~~/core/calls/model'
import { useDesk } from '~/stores/desk'
import { focusField, useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const dialogs = useDialogs()

/** Kept when the call ends while its story is read. */
const call = shallowRef<Call | null>(null)
watch(() => dialogs.story && live.state?.calls.get(dialogs.story), (known) => {
  if (known) call.value = known
})

function nameOf(device: string): string {
  const ours = live.state && deviceName(live.state.company, device) !== null
  // An outside party who has left is still the one whom the call was with.
  return directory.nameOf(device, call.value && (connectionOf(call.value, device)?.party ?? (ours ? null : call.value.party)))
}

const sentences = computed(() => call.value ? tellStory(call.value.story, nameOf) : [])
</script>

<template>
  <el-dialog
    :model-value="dialogs.story !== null"
    :title="call ? `The story of ${directory.nameOf(call.calling, call.party)}` : 'The story'"
    width="min(34rem, 94vw)"
    @close="dialogs.story = null"
    @closed="focusField"
  >
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
  </el-dialog>
</template>

<style scoped>
.story {
  display: grid;
  gap: var(--space-2);
}

li {
  display: grid;
  grid-template-columns: 4.5rem 1fr auto;
  gap: var(--space-4);
  padding-bottom: var(--space-2);
  border-bottom: var(--line);
}

.at,
.lasted {
  color: var(--ink-soft);
}
</style>
