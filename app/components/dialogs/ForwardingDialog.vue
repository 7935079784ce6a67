<script setup lang="ts">
import type { ForwardKind } from '~~/core/calls/model'
import { mailboxOf } from '~~/core/calls/names'
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Where the calls of a telephone go: one's own, or on behalf of a colleague; always, while it is busy, or when nobody answers. */
const desk = useDesk()
const dialogs = useDialogs()
const directory = useDirectory()
const live = useLive()
const kinds: { value: ForwardKind, label: string }[]
  = [{ value: 'always', label: t('dialogs.always') }, { value: 'busy', label: t('dialogs.whileBusy') },
    { value: 'noAnswer', label: t('dialogs.whenNobodyAnswers') }]
const when = ref<ForwardKind>('always')
const to = ref('')
const until = ref('')
const wrong = ref<Record<string, string>>({})
const failure = ref<string | null>(null)
const { found, search, offer } = useDestinations()

const whose = computed(() => dialogs.forwarding)
const now = computed(() => whose.value ? live.state?.devices.get(whose.value)?.forwarding ?? {} : {})
const own = computed(() => whose.value === desk.device)
/** The mobile that can ring along with their telephone; none with a console. */
const mobile = computed(() => {
  const { company, agents } = live.state ?? {}
  const person = whose.value && !agents?.has(whose.value) ? company?.telephones[whose.value]?.person : null
  return (person && company?.people[person]?.mobile) ?? null
})
const along = computed(() => (whose.value && live.state?.devices.get(whose.value)?.ringsAlong) ?? false)
async function ringAlong(on: boolean): Promise<void> {
  if (!await desk.ask({ service: 'setRingAlong', on, ...(!own.value && { of: whose.value! }) })) failure.value = desk.notice
}
const title = computed(() => own.value
  ? t('dialogs.forwardYourCalls')
  : t('dialogs.forwardTheCallsOf', { more: whose.value ? directory.nameOf(whose.value) : '' }))

watch(whose, () => {
  when.value = whose.value && live.state?.agents.has(whose.value) ? 'noAnswer' : 'always'
  to.value = ''
  until.value = ''
  wrong.value = {}
  failure.value = null
  if (whose.value) offer([{ value: mailboxOf(whose.value), label: directory.nameOf(mailboxOf(whose.value)) }])
}, { immediate: true })

async function send(destination: string | null): Promise<void> {
  const at = destination === null ? null : timeOfDay(until.value, live.wall(live.now()))
  wrong.value = {
    ...(destination === '' && { to: t('dialogs.callsGoToNameA') }),
    ...(at === undefined && { until: t('dialogs.untilIsNoTimeOf', { until: until.value }) }),
  }
  if (destination === '' || at === undefined) return
  const request = {
    service: 'setForwarding', when: when.value, to: destination, ...(destination !== null && { until: at }), ...(!own.value && { of: whose.value! }),
  } as const
  if (await desk.ask(request)) dialogs.forwarding = null
  else failure.value = desk.notice
}
</script>

<template>
  <FormDialog
    :open="whose !== null"
    :title="title"
    :action="t('dialogs.forward')"
    :failure="failure"
    width="min(30rem, 94vw)"
    first="forward-to"
    @close="dialogs.forwarding = null"
    @send="send(to)"
  >
    <FormField
      :label="t('common.when')"
      for="forward-when"
    >
      <el-radio-group
        id="forward-when"
        v-model="when"
        :aria-label="t('common.when')"
      >
        <el-radio
          v-for="kind in kinds"
          :key="kind.value"
          v-bind="kind"
        />
      </el-radio-group>
    </FormField>
    <p
      v-if="now[when]"
      class="now"
    >
      <span>{{ t('dialogs.nowTo', {
        name: directory.destinationName(now[when]!.to), more: now[when]!.by ? t('dialogs.setBy', { name: directory.nameOf(now[when]!.by!) }) : '',
      }) }}</span>
      <el-button
        size="small"
        @click="send(null)"
      >
        {{ t('dialogs.endIt') }}
      </el-button>
    </p>
    <el-checkbox
      v-if="mobile"
      :model-value="along"
      @change="ringAlong($event === true)"
    >
      {{ t('dialogs.mobileRingsAlong', { more: own ? t('dialogs.your') : t('dialogs.their'), number: formatNumber(mobile) }) }}
    </el-checkbox>
    <FormField
      :label="t('dialogs.callsGoTo')"
      for="forward-to"
      :error="wrong.to"
    >
      <el-select
        id="forward-to"
        v-model="to"
        filterable
        remote
        clearable
        :remote-method="search"
        :placeholder="t('dialogs.aNameAGroupOr')"
        :aria-label="t('dialogs.callsGoTo')"
      >
        <el-option
          v-for="option in found"
          :key="option.value"
          v-bind="option"
        />
      </el-select>
    </FormField>
    <FormField
      :label="t('dialogs.untilEmptyUntilFurtherNotice')"
      for="forward-until"
      :error="wrong.until"
    >
      <el-input
        id="forward-until"
        v-model="until"
        maxlength="10"
        placeholder="16:30"
      />
    </FormField>
  </FormDialog>
</template>

<style scoped>
.now {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  justify-content: space-between;
  padding-bottom: var(--space-4);
  color: var(--ink-soft);
}
</style>
