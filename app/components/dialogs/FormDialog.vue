<script setup lang="ts">
import { closesDialog, focusField } from '~/stores/dialogs'

/** A form over the console: its fields in the slot, what is wrong with all of it below them. */
const { first } = defineProps<{ open: boolean, title: string, action: string, failure: string | null, sending?: boolean, width?: string, first?: string }>()
const emit = defineEmits<{ send: [], close: [] }>()
const id = useId()

/** Writing begins at once, in the field named first or in the first that says nothing yet. */
function begin(): void {
  // Who has begun already is left where they are.
  if (document.getElementById(id)?.contains(document.activeElement)) return
  if (first) return document.getElementById(first)?.focus()
  const fields = [...document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>(`#${id} :is(input:not([type="checkbox"]), textarea)`)]
  const empty = fields.find(field => field.value === '' && field.getAttribute('role') !== 'combobox')
  ;(empty ?? fields[0])?.focus()
}
/** What is typed behind the key that opened it is for the form: the keyboard is there as soon as it is drawn. */
function atOnce(): void {
  requestAnimationFrame(begin)
}
</script>

<template>
  <el-dialog
    :model-value="open"
    :title="title"
    :width="width ?? 'min(32rem, 94vw)'"
    @close="emit('close')"
    @open="atOnce"
    @opened="begin"
    @closed="focusField"
  >
    <el-form
      :id="id"
      label-position="top"
      @submit.prevent="emit('send')"
      @keydown.esc.capture="closesDialog($event) && emit('close')"
      @keydown.ctrl.enter.prevent="emit('send')"
    >
      <slot />
      <FailureNote :text="failure" />
    </el-form>
    <template #footer>
      <el-button @click="emit('close')">
        {{ t('dialogs.cancel') }}
      </el-button>
      <el-button
        type="primary"
        native-type="submit"
        :form="id"
        :loading="sending"
      >
        {{ action }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.failure {
  padding: var(--space-3) var(--space-4);
  border-left: 4px solid var(--alarm);
}
</style>
