<script setup lang="ts">
import { mailboxOf } from '~~/core/calls/names'
import { lookUp } from '~~/core/company/lookups'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Closes a line or a queue: until when, and where callers go meanwhile. */
const desk = useDesk()
const dialogs = useDialogs()
const directory = useDirectory()
const live = useLive()
const until = ref('')
const to = ref('')
const wrong = ref<string>()
const failure = ref<string | null>(null)
const { found, search, offer } = useDestinations()

const company = computed(() => live.company!)
const line = computed(() => dialogs.closing === null ? undefined : lookUp(company.value.lines, dialogs.closing))
const queue = computed(() => dialogs.closing === null ? undefined : lookUp(company.value.groups, dialogs.closing))
const name = computed(() => (line.value ?? queue.value)?.name ?? '')
const said = computed(() => (line.value ?? queue.value)?.closedText ?? '')
const always = computed(() => directory.nameOf(line.value?.night ?? company.value.settings.operators))

watch(() => dialogs.closing, () => {
  until.value = ''
  to.value = ''
  wrong.value = undefined
  failure.value = null
  offer(Object.keys(company.value.lines).map(id => ({ value: mailboxOf(id), label: directory.nameOf(mailboxOf(id)) })))
}, { immediate: true })

async function close(): Promise<void> {
  const at = timeOfDay(until.value, live.wall(live.now()))
  wrong.value = at === undefined ? t('dialogs.untilIsNoTimeOf', { until: until.value }) : undefined
  if (at === undefined) return
  if (await desk.ask({ service: 'setOpening', of: dialogs.closing!, open: false, until: at, ...(to.value && { to: to.value }) })) dialogs.closing = null
  else failure.value = desk.notice
}
</script>

<template>
  <FormDialog
    :open="dialogs.closing !== null"
    :title="t('dialogs.closeThe', { name })"
    :action="t('dialogs.closeThe', { name })"
    :failure="failure"
    width="min(30rem, 94vw)"
    @close="dialogs.closing = null"
    @send="close"
  >
    <p class="what">
      {{ t('dialogs.nobodyWhoTalksIsCut', { more: said ? t('dialogs.callersHear', { said }) : '' }) }}
    </p>
    <FormField
      :label="t('dialogs.untilEmptyUntilSomebodyOpens')"
      for="closing-until"
      :error="wrong"
    >
      <el-input
        id="closing-until"
        v-model="until"
        maxlength="10"
        placeholder="16:30"
        @keydown.enter.prevent="close"
      />
    </FormField>
    <FormField
      :label="t('dialogs.callersGoTo')"
      for="closing-to"
    >
      <el-select
        id="closing-to"
        v-model="to"
        filterable
        remote
        :remote-method="search"
        clearable
        :placeholder="t('dialogs.asAlways', { always })"
        :aria-label="t('dialogs.callersGoToAGroup')"
      >
        <el-option
          v-for="destination in found"
          :key="destination.value"
          v-bind="destination"
        />
      </el-select>
    </FormField>
  </FormDialog>
</template>

<style scoped>
.what {
  padding-bottom: var(--space-4);
  color: var(--ink-soft);
}
</style>
