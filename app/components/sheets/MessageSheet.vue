<script setup lang="ts">
import { formatNumber } from '~~/core/numbers/dialled'
import { searchDirectory } from '~~/core/directory/search'
import { newMessage } from '~~/shared/messages'
import { ValidationError } from 'yup'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useRoutes } from '~/stores/routes'

const desk = useDesk()
const routes = useRoutes()
const directory = useDirectory()
const form = reactive({ to: '', caller: '', number: '', text: '', urgent: false, callBack: true })
const failure = ref<string | null>(null)
const sending = ref(false)

watch(() => routes.messageFor, (wanted) => {
  if (!wanted) return
  const party = wanted.call?.party
  Object.assign(form, {
    to: wanted.to,
    caller: party?.name ?? '',
    number: party?.number ? formatNumber(party.number) : '',
    text: wanted.call?.caption?.text ?? '',
    urgent: false,
    callBack: true,
  })
  failure.value = null
})

const found = ref<{ value: string, label: string }[]>([])
function search(typed: string): void {
  found.value = searchDirectory(directory.index, typed, 8).flatMap(({ id }) => {
    const person = directory.person(id)
    return person && person.telephones.length > 0 ? [{ value: id, label: `${person.first} ${person.last}, ${person.departmentName}` }] : []
  })
}
const options = computed(() => form.to && !found.value.some(option => option.value === form.to)
  ? [{ value: form.to, label: directory.nameOf(form.to) }, ...found.value]
  : found.value)

async function send(): Promise<void> {
  failure.value = null
  sending.value = true
  try {
    const body = newMessage.validateSync({ ...form, text: form.text.trim(), caller: form.caller.trim() || null, number: form.number.trim() || null })
    await $fetch('/api/messages', { method: 'POST', body })
    desk.say(`Message left for ${directory.nameOf(form.to)}`)
    routes.messageFor = null
  }
  catch (error) {
    failure.value = error instanceof ValidationError ? error.message : sentenceOf(error)
  }
  finally {
    sending.value = false
  }
}
</script>

<template>
  <el-dialog
    :model-value="routes.messageFor !== null"
    title="Take a message"
    width="min(32rem, 94vw)"
    @close="routes.messageFor = null"
    @closed="focusField"
  >
    <el-form
      label-position="top"
      @submit.prevent="send"
    >
      <el-form-item
        label="For"
        for="message-to"
      >
        <el-select
          id="message-to"
          v-model="form.to"
          filterable
          remote
          :remote-method="search"
          placeholder="Name, department or extension"
          aria-label="For whom"
        >
          <el-option
            v-for="option in options"
            :key="option.value"
            :value="option.value"
            :label="option.label"
          />
        </el-select>
      </el-form-item>
      <div class="pair">
        <el-form-item
          label="Who called"
          for="message-caller"
        >
          <el-input
            id="message-caller"
            v-model="form.caller"
            maxlength="80"
          />
        </el-form-item>
        <el-form-item
          label="Number"
          for="message-number"
        >
          <el-input
            id="message-number"
            v-model="form.number"
            maxlength="40"
          />
        </el-form-item>
      </div>
      <el-form-item
        label="What about"
        for="message-text"
      >
        <el-input
          id="message-text"
          v-model="form.text"
          type="textarea"
          :rows="3"
          maxlength="500"
        />
      </el-form-item>
      <div class="checks">
        <el-checkbox v-model="form.callBack">
          Wants to be called back
        </el-checkbox>
        <el-checkbox v-model="form.urgent">
          Urgent
        </el-checkbox>
      </div>
      <p
        v-if="failure"
        class="failure"
        role="alert"
      >
        {{ failure }}
      </p>
    </el-form>
    <template #footer>
      <el-button @click="routes.messageFor = null">
        Cancel
      </el-button>
      <el-button
        type="primary"
        :loading="sending"
        @click="send"
      >
        Leave message
      </el-button>
    </template>
  </el-dialog>
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

.failure {
  padding: var(--space-3) var(--space-4);
  border-left: 4px solid var(--alarm);
}
</style>
