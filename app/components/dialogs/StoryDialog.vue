<script setup lang="ts">
import type { Call } from '~~/core/calls/model'
import { focusField, useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const live = useLive()
const directory = useDirectory()
const dialogs = useDialogs()

/** Kept when the call ends while its story is read. */
const call = shallowRef<Call | null>(null)
watch(() => dialogs.story && live.state?.calls.get(dialogs.story), (known) => {
  if (known) call.value = known
}, { immediate: true })
</script>

<template>
  <el-dialog
    :model-value="dialogs.story !== null"
    :title="call ? t('dialogs.theStoryOf', { name: directory.nameOf(call.calling, call.party) }) : t('dialogs.theStory')"
    width="min(34rem, 94vw)"
    @close="dialogs.story = null"
    @closed="focusField"
  >
    <CallStory
      v-if="call"
      :call="call"
    />
  </el-dialog>
</template>
