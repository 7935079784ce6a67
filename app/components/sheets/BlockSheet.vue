<script setup lang="ts">
import { formatNumber } from '~~/core/numbers/dialled'
import { useDesk } from '~/stores/desk'

const desk = useDesk()
const { blocking } = usePanels()
const reason = ref('')
const failure = ref<string | null>(null)

watch(blocking, () => {
  reason.value = ''
  failure.value = null
})

async function block(): Promise<void> {
  if (!reason.value.trim()) {
    failure.value = 'Reason is missing: say why, so that others understand it later.'
    return
  }
  if (await desk.ask({ service: 'blockNumber', number: blocking.value!, reason: reason.value })) {
    desk.say(`${formatNumber(blocking.value!)} is blocked`)
    blocking.value = null
  }
  else failure.value = desk.notice
}
</script>

<template>
  <el-dialog
    :model-value="blocking !== null"
    :title="blocking ? `Block ${formatNumber(blocking)}` : 'Block a number'"
    width="min(28rem, 94vw)"
    @close="blocking = null"
    @closed="focusField"
  >
    <p class="what">
      Calls from this number hear a sentence and are not put through. A call in hand goes on. Blocks can be lifted under “Blocked”.
    </p>
    <label for="block-reason">Reason</label>
    <el-input
      id="block-reason"
      v-model="reason"
      maxlength="80"
      @keydown.enter.prevent="block"
    />
    <p
      v-if="failure"
      class="failure"
      role="alert"
    >
      {{ failure }}
    </p>
    <template #footer>
      <el-button @click="blocking = null">
        Cancel
      </el-button>
      <el-button
        type="primary"
        @click="block"
      >
        Block the number
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.what {
  padding-bottom: var(--space-4);
  color: var(--ink-soft);
}

.failure {
  margin-top: var(--space-3);
  padding: var(--space-3) var(--space-4);
  border-left: 4px solid var(--alarm);
}
</style>
