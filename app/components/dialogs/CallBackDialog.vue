<script setup lang="ts">
import { formatNumber, readDialled } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'

const desk = useDesk()
const dialogs = useDialogs()
const live = useLive()
const form = reactive({ number: '', name: '', queue: '' })
const failure = ref<string | null>(null)
const wrong = ref<string>()

const queues = computed(() => Object.values(live.company?.groups ?? {}).filter(({ distribution }) => distribution === 'queue'))

watch(() => dialogs.callBack, (about) => {
  failure.value = null
  wrong.value = undefined
  if (!about) return
  const target = live.company?.lines[about.line ?? '']?.target
  Object.assign(form, {
    number: about.number && formatNumber(about.number), name: about.name,
    queue: queues.value.some(({ id }) => id === target) ? target : live.company!.settings.operators,
  })
}, { immediate: true })

async function promise(): Promise<void> {
  const dialled = readDialled(form.number)
  const why = dialled.kind === 'invalid' ? say(dialled.why) : t('dialogs.typeItWithItsArea')
  wrong.value = dialled.kind === 'outside' ? undefined : t('dialogs.numberIsNotOneOutside', { why })
  if (wrong.value || dialled.kind !== 'outside') return
  const { line } = dialogs.callBack!
  const asked = { service: 'promiseCallBack', number: dialled.e164, name: form.name, queue: form.queue, ...(line && { line }) } as const
  if (await desk.ask(asked)) dialogs.callBack = null
  else failure.value = desk.notice
}
</script>

<template>
  <FormDialog
    :open="dialogs.callBack !== null"
    :title="t('dialogs.promiseACallBack')"
    :action="t('dialogs.promiseIt')"
    :failure="failure"
    width="min(28rem, 94vw)"
    @close="dialogs.callBack = null"
    @send="promise"
  >
    <FormField
      :label="t('common.number')"
      for="promise-number"
      :error="wrong"
    >
      <el-input
        id="promise-number"
        v-model="form.number"
        maxlength="40"
      />
    </FormField>
    <FormField
      :label="t('dialogs.nameIfKnown')"
      for="promise-name"
    >
      <el-input
        id="promise-name"
        v-model="form.name"
        maxlength="80"
      />
    </FormField>
    <FormField
      :label="t('dialogs.whoCallsThemBack')"
      for="promise-queue"
    >
      <el-select
        id="promise-queue"
        v-model="form.queue"
        :aria-label="t('dialogs.whoCallsThemBack')"
      >
        <el-option
          v-for="queue in queues"
          :key="queue.id"
          :value="queue.id"
          :label="queue.name"
        />
      </el-select>
    </FormField>
  </FormDialog>
</template>
