<script setup lang="ts">
import { timeOfDay } from '~/composables/time-of-day'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Do not disturb on behalf of a colleague, until a time; an hour is proposed. */
const desk = useDesk()
const dialogs = useDialogs()
const live = useLive()
const directory = useDirectory()
const until = ref('')
const wrong = ref<string>()
const failure = ref<string | null>(null)
const inAnHour = () => shownAt(live.wall(live.now() + 60 * 60_000)).format('H:mm')
const name = computed(() => dialogs.quiet ? directory.nameOf(dialogs.quiet) : '')

watch(() => dialogs.quiet, () => {
  until.value = inAnHour()
  wrong.value = undefined
  failure.value = null
}, { immediate: true })

async function send(): Promise<void> {
  const at = timeOfDay(until.value, live.wall(live.now()))
  wrong.value = at === undefined ? t('dialogs.untilIsNoTimeOf', { until: until.value }) : undefined
  if (at === undefined) return
  if (await desk.ask({ service: 'setDoNotDisturb', of: dialogs.quiet!, on: true, until: at })) dialogs.quiet = null
  else failure.value = desk.notice
}
</script>

<template>
  <FormDialog
    :open="dialogs.quiet !== null"
    :title="t('dialogs.doNotDisturb', { name })"
    :action="t('common.doNotDisturb')"
    :failure="failure"
    width="min(24rem, 94vw)"
    first="quiet-until"
    @close="dialogs.quiet = null"
    @send="send"
  >
    <FormField
      :label="t('dialogs.untilEmptyUntilTheyEnd')"
      for="quiet-until"
      :error="wrong"
    >
      <el-input
        id="quiet-until"
        v-model="until"
        maxlength="5"
        placeholder="16:30"
      />
    </FormField>
  </FormDialog>
</template>
