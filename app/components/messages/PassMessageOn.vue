<script setup lang="ts">
import { passedMessage } from '~~/shared/messages'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useMessages } from '~/stores/messages'

/** A message for oneself is for somebody else as well: named, with a word. */
const { id } = defineProps<{ id: string }>()
const desk = useDesk()
const directory = useDirectory()
const messages = useMessages()
const { errors, failure, sending, send, clear } = useForm()
const form = reactive({ to: '', word: '' })
const { options, search } = useReaders(toRef(form, 'to'))
watch(() => id, () => {
  Object.assign(form, { to: '', word: '' })
  clear()
})

async function passOn(): Promise<void> {
  const { to } = form
  const done = await send({ to: t('messages.passOnTo'), word: t('messages.aWordWithIt') }, async () => {
    const body = passedMessage.validateSync(form, { abortEarly: false })
    await $fetch(`/api/messages/${encodeURIComponent(id)}/pass`, { method: 'POST', body })
  })
  if (!done) return
  desk.say(t('messages.passedOnTo', { name: directory.nameOf(to) }))
  Object.assign(form, { to: '', word: '' })
  await messages.load()
}
</script>

<template>
  <el-form
    class="pass"
    label-position="top"
    :aria-label="t('messages.passOn')"
    @submit.prevent="passOn"
  >
    <FormField
      :label="t('messages.passOnTo')"
      for="pass-to"
      :error="errors.to"
    >
      <el-select
        id="pass-to"
        v-model="form.to"
        filterable
        remote
        :remote-method="search"
        :placeholder="t('dialogs.nameDepartmentOrExtension')"
        :aria-label="t('messages.passOnTo')"
      >
        <el-option
          v-for="option in options"
          :key="option.value"
          v-bind="option"
        />
      </el-select>
    </FormField>
    <FormField
      :label="t('messages.aWordWithIt')"
      for="pass-word"
      :error="errors.word"
    >
      <el-input
        id="pass-word"
        v-model="form.word"
        maxlength="200"
      />
    </FormField>
    <el-button
      native-type="submit"
      :loading="sending"
    >
      {{ t('messages.passOn') }}
    </el-button>
    <FailureNote :text="failure" />
  </el-form>
</template>

<style scoped>
.pass {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
  padding-top: var(--space-4);
}

.pass :deep(.el-form-item) {
  width: 100%;
  margin: 0;
}
</style>
