<script setup lang="ts">
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'

const desk = useDesk()
const dialogs = useDialogs()
const reason = ref('')
const failure = ref<string | null>(null)
const missing = ref<string>()

watch(() => dialogs.blocking, () => {
  reason.value = ''
  failure.value = null
  missing.value = undefined
})

async function block(): Promise<void> {
  const number = dialogs.blocking!
  missing.value = reason.value.trim() ? undefined : t('dialogs.reasonIsMissingSayWhy')
  if (missing.value) return
  if (await desk.ask({ service: 'blockNumber', number, reason: reason.value })) dialogs.blocking = null
  else failure.value = desk.notice
}
</script>

<template>
  <FormDialog
    :open="dialogs.blocking !== null"
    :title="dialogs.blocking ? t('dialogs.blockNumber', { number: formatNumber(dialogs.blocking) }) : t('dialogs.blockANumber')"
    :action="t('dialogs.blockTheNumber')"
    :failure="failure"
    width="min(28rem, 94vw)"
    @close="dialogs.blocking = null"
    @send="block"
  >
    <p class="what">
      {{ t('dialogs.callsFromThisNumberHear') }}
    </p>
    <FormField
      :label="t('dialogs.reason')"
      for="block-reason"
      :error="missing"
    >
      <el-input
        id="block-reason"
        v-model="reason"
        maxlength="80"
        @keydown.enter.prevent="block"
      />
    </FormField>
  </FormDialog>
</template>

<style scoped>
.what {
  padding-bottom: var(--space-4);
  color: var(--ink-soft);
}
</style>
