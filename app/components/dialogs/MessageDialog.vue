<script setup lang="ts">
import type { Call } from '~~/core/calls/model'
import { outsideParty } from '~~/core/console/console'
import { formatNumber } from '~/composables/numbers'
import { newMessage } from '~~/shared/messages'
import { useContacts } from '~/stores/contacts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const desk = useDesk()
const contacts = useContacts()
const dialogs = useDialogs()
const live = useLive()
const directory = useDirectory()
const form = reactive({ to: '', caller: '', number: '', text: '', urgent: false, callBack: true })
const sent = useForm()

watch(() => dialogs.message, (wanted) => {
  if (!wanted) return
  const call = wanted.call === null ? undefined : live.state?.calls.get(wanted.call)
  const party = call?.party
  Object.assign(form, {
    to: wanted.to ?? '',
    caller: call ? whoCalled(call) : '',
    number: party?.number ? formatNumber(party.number) : '',
    text: call?.caption?.text ?? '',
    urgent: false,
    callBack: true,
  })
  sent.clear()
}, { immediate: true })

/** Who was announced: by what is known of the number, by the network, or a colleague by name. */
function whoCalled(call: Call): string {
  const party = outsideParty(call, desk.device)
  return party ? contacts.of(party.number)?.name ?? party.name ?? '' : directory.nameOf(call.calling)
}

const { options, search } = useReaders(toRef(form, 'to'))

async function send(): Promise<void> {
  const done = await sent.send({ to: t('common.for'), caller: t('dialogs.whoCalled'), number: t('common.number'), text: t('dialogs.whatAbout') }, async () => {
    const filled = { ...form, text: form.text.trim(), caller: form.caller.trim() || null, number: form.number.trim() || null }
    const body = newMessage.validateSync(filled, { abortEarly: false })
    await $fetch('/api/messages', { method: 'POST', body })
  })
  if (!done) return
  desk.say(t('dialogs.messageLeftFor', { name: directory.nameOf(form.to) }))
  dialogs.message = null
}
</script>

<template>
  <FormDialog
    :open="dialogs.message !== null"
    :title="t('dialogs.takeAMessage')"
    :action="t('dialogs.leaveMessage')"
    :first="form.to ? 'message-text' : 'message-to'"
    :failure="sent.failure.value"
    :sending="sent.sending.value"
    @close="dialogs.message = null"
    @send="send"
  >
    <FormField
      :label="t('common.for')"
      for="message-to"
      :error="sent.errors.value.to"
    >
      <el-select
        id="message-to"
        v-model="form.to"
        filterable
        remote
        :remote-method="search"
        :placeholder="t('dialogs.nameDepartmentOrExtension')"
        :aria-label="t('dialogs.forWhom')"
      >
        <el-option
          v-for="option in options"
          :key="option.value"
          :value="option.value"
          :label="option.label"
        />
      </el-select>
    </FormField>
    <div class="pair">
      <FormField
        :label="t('dialogs.whoCalled')"
        for="message-caller"
        :error="sent.errors.value.caller"
      >
        <el-input
          id="message-caller"
          v-model="form.caller"
          maxlength="80"
        />
      </FormField>
      <FormField
        :label="t('common.number')"
        for="message-number"
        :error="sent.errors.value.number"
      >
        <el-input
          id="message-number"
          v-model="form.number"
          maxlength="40"
        />
      </FormField>
    </div>
    <FormField
      :label="t('dialogs.whatAbout')"
      for="message-text"
      :error="sent.errors.value.text"
    >
      <el-input
        id="message-text"
        v-model="form.text"
        type="textarea"
        :rows="3"
        maxlength="500"
      />
    </FormField>
    <div class="checks">
      <el-checkbox v-model="form.callBack">
        {{ t('dialogs.wantsToBeCalledBack') }}
      </el-checkbox>
      <el-checkbox v-model="form.urgent">
        {{ t('dialogs.urgent') }}
      </el-checkbox>
    </div>
  </FormDialog>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--space-4);
}

.checks {
  display: flex;
  gap: var(--space-5);
}
</style>
