<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { focusField, useDialogs } from '~/stores/dialogs'

const desk = useDesk()
const dialogs = useDialogs()
const open = computed({ get: () => dialogs.digits, set: (wanted) => { dialogs.digits = wanted } })
const pad = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '*', '0', '#']
const prepared = ref('')
const sent = ref('')
const input = useTemplateRef<{ focus: () => void }>('input')

async function send(digits: string): Promise<void> {
  if (desk.talking && await desk.ask({ service: 'generateDigits', call: desk.talking.id, digits })) sent.value = `${sent.value}${digits}`.slice(-24)
}

async function sendPrepared(): Promise<void> {
  if (prepared.value.trim()) await send(prepared.value.trim())
  prepared.value = ''
}

watch(() => desk.talking?.id, () => {
  open.value = false
  sent.value = ''
})
</script>

<template>
  <el-dialog
    v-model="open"
    :title="t('dialogs.sendDigits')"
    width="min(22rem, 94vw)"
    @opened="input?.focus()"
    @closed="focusField"
  >
    <div class="send-digits">
      <el-input
        ref="input"
        v-model="prepared"
        maxlength="40"
        :placeholder="t('dialogs.n12345ACommaPauses')"
        :aria-label="t('dialogs.digitsToSendAComma')"
        @keydown.enter.prevent="sendPrepared"
      />
      <el-button
        class="send"
        @click="sendPrepared"
      >
        {{ t('dialogs.send') }}
      </el-button>
      <div class="pad">
        <el-button
          v-for="digit in pad"
          :key="digit"
          @click="send(digit)"
        >
          {{ digit }}
        </el-button>
      </div>
      <p
        class="sent"
        role="status"
      >
        {{ desk.notice ?? (sent ? t('dialogs.sentSent', { sent }) : t('dialogs.nothingSentYet')) }}
      </p>
    </div>
  </el-dialog>
</template>

<style scoped>
.send-digits,
.pad {
  display: grid;
  gap: var(--space-3);
}

.pad {
  grid-template-columns: repeat(3, 1fr);
}

.pad .el-button {
  margin: 0;
  font-size: var(--type-5);
}

.sent {
  color: var(--ink-soft);
}
</style>
