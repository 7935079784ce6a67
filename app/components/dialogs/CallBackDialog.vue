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
  const why = dialled.kind === 'invalid' ? dialled.why : 'type it with its area code.'
  wrong.value = dialled.kind === 'outside' ? undefined : `Number is not one outside: ${why}`
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
    title="Promise a call-back"
    action="Promise it"
    :failure="failure"
    width="min(28rem, 94vw)"
    @close="dialogs.callBack = null"
    @send="promise"
  >
    <FormField
      label="Number"
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
      label="Name, if known"
      for="promise-name"
    >
      <el-input
        id="promise-name"
        v-model="form.name"
        maxlength="80"
      />
    </FormField>
    <FormField
      label="Who calls them back"
      for="promise-queue"
    >
      <el-select
        id="promise-queue"
        v-model="form.queue"
        aria-label="Who calls them back"
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
