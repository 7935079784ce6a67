<script setup lang="ts">
import { FetchError } from 'ofetch'
import { ValidationError } from 'yup'
import { type CalendarInfo, longestFile } from '~~/shared/whereabouts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'

/** Where a person's calendar, or a duty's roster, comes from. */
const dialogs = useDialogs()
const desk = useDesk()
const address = ref('')
const file = ref<File | null>(null)
const known = ref<CalendarInfo | null>(null)
const { failure, errors, sending, send, clear } = useForm()

const path = computed(() => `/api/calendars/${encodeURIComponent(dialogs.calendar?.of ?? '')}`)
const state = computed(() => {
  if (!known.value) return t('dialogs.noneIsKnownYet')
  const { address, readAt, times } = known.value
  const source = address === null ? t('dialogs.fromAFile') : t('dialogs.fromAddress', { address })
  return t('dialogs.readTimesInTheWeeks', { source, more: readAt === null ? t('dialogs.never') : shownAt(readAt).format('ddd H:mm'), times })
})

watch(() => dialogs.calendar, async (calendar) => {
  clear()
  address.value = ''
  file.value = null
  known.value = null
  if (!calendar) return
  try {
    const info = await $fetch<CalendarInfo>(path.value)
    if (dialogs.calendar !== calendar) return
    known.value = info
    address.value = info.address ?? ''
  }
  catch (error) {
    if (!(error instanceof FetchError && error.statusCode === 404)) failure.value = sentenceOf(error)
  }
}, { immediate: true })

function choose(event: Event): void {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
}

async function save(): Promise<void> {
  const { value: chosen } = file
  const done = await send({ address: t('common.address'), content: t('dialogs.file') }, async () => {
    if (chosen && chosen.size > longestFile) throw new ValidationError(t('dialogs.theFileIsLargerThan'), chosen, 'content')
    known.value = await $fetch<CalendarInfo>(path.value, {
      method: 'PUT', body: chosen ? { address: null, content: await chosen.text() } : { address: address.value.trim(), content: null },
    })
  })
  // What was left out is to be read first.
  if (done && !known.value?.problems.length) finish('taken')
}

async function remove(): Promise<void> {
  if (await send({}, async () => void await $fetch(path.value, { method: 'DELETE' }))) finish('forgotten')
}

function finish(what: string): void {
  desk.say(t('dialogs.theCalendarOfIs', { name: dialogs.calendar!.name, what }))
  dialogs.calendar = null
}
</script>

<template>
  <FormDialog
    :open="dialogs.calendar !== null"
    :title="t('dialogs.calendarOf', { name: dialogs.calendar?.name ?? '' })"
    :action="t('dialogs.takeThisCalendar')"
    :failure="failure"
    :sending="sending"
    first="calendar-address"
    @close="dialogs.calendar = null"
    @send="save"
  >
    <p class="what">
      {{ t('dialogs.onlyTimesAndPlacesAre', { state }) }}
    </p>
    <ul
      v-if="known?.failure || known?.problems.length"
      class="problems"
      role="alert"
    >
      <li v-if="known.failure">
        {{ t('dialogs.theLastTimeItCould', { failure: known.failure }) }}
      </li>
      <li
        v-for="problem in known.problems"
        :key="say(problem)"
      >
        {{ say(problem) }}
      </li>
    </ul>
    <FormField
      :label="t('dialogs.addressICalendarAskedAgainEvery')"
      for="calendar-address"
      :error="errors.address"
    >
      <el-input
        id="calendar-address"
        v-model="address"
        maxlength="2000"
        placeholder="https://"
        :disabled="file !== null"
      />
    </FormField>
    <FormField
      :label="t('dialogs.orAFileIcs')"
      for="calendar-file"
      :error="errors.content"
    >
      <input
        id="calendar-file"
        type="file"
        accept=".ics,text/calendar"
        @change="choose"
      >
    </FormField>
    <el-button
      v-if="known"
      :disabled="sending"
      @click="remove"
    >
      {{ t('dialogs.forgetThisCalendar') }}
    </el-button>
  </FormDialog>
</template>

<style scoped>
.what {
  padding-bottom: var(--space-4);
  color: var(--ink-soft);
}

.problems {
  padding: 0 0 var(--space-4) var(--space-5);
}
</style>
