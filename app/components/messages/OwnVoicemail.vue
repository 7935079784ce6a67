<script setup lang="ts">
import { type GreetingOccasion, greetingOccasions, longestGreeting } from '~~/core/calls/model'
import { mailboxOf } from '~~/core/calls/names'
import { lastingTarget } from '~~/core/calls/targets'
import { keysOfTelephone } from '~~/core/calls/voicemail/set-greeting'
import { greetingAt, greetingPlace } from '~~/core/sound/own-sounds'
import { formatNumber, readDialled } from '~/composables/numbers'
import { reasonWords } from '~/composables/words'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** What one's own mailbox says, usually and while one is away, and where keys lead meanwhile. */
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const { found, search } = useDestinations()
const { sounds, failure, load } = useOwnSounds()

const mailbox = computed(() => desk.device ? live.state?.devices.get(desk.device)?.mailbox : undefined)
const occasion = ref<GreetingOccasion>('usual')
const kept = computed(() => mailbox.value?.greetings[occasion.value] ?? '')
const text = ref('')
// Whatever is being written stays when something else changes.
watch([occasion, kept], ([now, is], [before, was]) => {
  if (now !== before || text.value === was || was === undefined) text.value = is
}, { immediate: true })

const occasions = computed(() => greetingOccasions.map(value => ({
  value,
  label: value === 'usual' ? t('messages.usually') : t('messages.whileAway', { reason: t(reasonWords[value]) }),
  written: Boolean(mailbox.value?.greetings[value]),
  recorded: desk.device !== null && sounds.value.has(greetingPlace(desk.device, value)),
})))
const place = computed(() => desk.device && greetingPlace(desk.device, occasion.value))
const what = computed(() => t('messages.greetingFor', { occasion: occasions.value.find(({ value }) => value === occasion.value)!.label }))
/** What is heard at this moment. */
const now = computed(() => {
  const own = live.state && desk.device ? greetingAt(live.state, mailboxOf(desk.device), one => sounds.value.has(one)) : null
  if (!own) return t('messages.heardNowIsTheUsual')
  return 'sound' in own ? t('messages.heardNowIsYourVoice') : t('messages.heardNow', { text: own.text })
})
const placeholder = computed(() => t(occasion.value === 'usual' ? 'messages.asMailboxesSay' : 'messages.asYouUsuallySay'))

async function keep(): Promise<void> {
  if (await desk.ask({ service: 'setGreeting', when: occasion.value, text: text.value })) text.value = kept.value
}

const keys = computed(() => Object.entries(mailbox.value?.keys ?? {}).sort(([a], [b]) => a.localeCompare(b)).map(([digit, to]) => ({ digit, to: nameOf(to) })))
function nameOf(to: string): string {
  if (to === '') return t('messages.aNumberOutside')
  const dialled = readDialled(to)
  if (dialled.kind === 'outside') return formatNumber(dialled.e164)
  const target = live.state && lastingTarget(live.state, to)
  return directory.nameOf(target && 'id' in target ? target.id : to)
}
const digit = ref(keysOfTelephone[0]!)
const to = ref('')
const missing = ref<string>()
async function add(): Promise<void> {
  missing.value = to.value ? undefined : t('messages.sayWhereTheKeyLeads')
  if (!missing.value && await desk.ask({ service: 'setMailboxKey', digit: digit.value, to: to.value })) to.value = ''
}
const choice = useTemplateRef<{ focus: () => void }>('choice')
async function remove(of: string): Promise<void> {
  await desk.ask({ service: 'setMailboxKey', digit: of, to: null })
  // The button that was pressed is gone with its row.
  choice.value?.focus()
}
</script>

<template>
  <section
    class="own"
    aria-labelledby="own-voicemail"
  >
    <h2 id="own-voicemail">
      {{ t('messages.yourVoicemail') }}
    </h2>
    <p class="soft">
      {{ now }}
    </p>
    <el-form
      label-position="top"
      @submit.prevent="keep"
    >
      <FormField
        :label="t('messages.greeting')"
        for="greeting-when"
      >
        <el-select
          id="greeting-when"
          v-model="occasion"
          :aria-label="t('messages.greeting')"
        >
          <el-option
            v-for="one in occasions"
            :key="one.value"
            :value="one.value"
            :label="one.recorded ? t('messages.occasionRecorded', { occasion: one.label })
              : one.written ? t('messages.occasionWritten', { occasion: one.label }) : one.label"
          />
        </el-select>
      </FormField>
      <label
        class="unseen"
        for="greeting-text"
      >{{ t('messages.whatItSays') }}</label>
      <textarea
        id="greeting-text"
        v-model="text"
        rows="3"
        :maxlength="longestGreeting"
        :placeholder="placeholder"
        @keydown.ctrl.enter.prevent="keep"
      />
      <el-button
        native-type="submit"
        :disabled="!live.working || text === kept"
      >
        {{ t('messages.keepTheGreeting') }}
      </el-button>
    </el-form>
    <h3>{{ t('ownSounds.inYourOwnVoice') }}</h3>
    <FailureNote :text="failure" />
    <OwnSound
      v-if="place"
      :key="place"
      :place="place"
      :what="what"
      :kept="sounds.get(place)"
      @changed="load"
    />
    <h3>{{ t('messages.keysDuringTheGreeting') }}</h3>
    <ul v-if="keys.length">
      <li
        v-for="one in keys"
        :key="one.digit"
      >
        <kbd>{{ one.digit }}</kbd> <span>{{ one.to }}</span>
        <el-button
          size="small"
          :disabled="!live.working"
          :aria-label="t('messages.takeKeyAway', { digit: one.digit })"
          @click="remove(one.digit)"
        >
          {{ t('messages.takeAway') }}
        </el-button>
      </li>
    </ul>
    <p
      v-else
      class="soft"
    >
      {{ t('messages.noKeyLeadsAnywhere') }}
    </p>
    <el-form
      label-position="top"
      class="key"
      @submit.prevent="add"
    >
      <FormField
        :label="t('messages.key')"
        for="mailbox-digit"
      >
        <el-select
          id="mailbox-digit"
          ref="choice"
          v-model="digit"
          class="digit"
          :aria-label="t('messages.key')"
        >
          <el-option
            v-for="one in keysOfTelephone"
            :key="one"
            :value="one"
            :label="one"
          />
        </el-select>
      </FormField>
      <FormField
        :label="t('messages.leadsTo')"
        for="mailbox-to"
        :error="missing"
      >
        <el-select
          id="mailbox-to"
          v-model="to"
          filterable
          remote
          :remote-method="search"
          :aria-label="t('messages.leadsTo')"
          :placeholder="t('messages.nameOrNumber')"
        >
          <el-option
            v-for="one in found"
            :key="one.value"
            v-bind="one"
          />
        </el-select>
      </FormField>
      <el-button
        native-type="submit"
        :disabled="!live.working"
      >
        {{ t('messages.addTheKey') }}
      </el-button>
    </el-form>
  </section>
</template>

<style scoped>
.own .el-form {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
}

.own :deep(.el-form-item) {
  width: 100%;
  margin: 0;
}

h2 {
  padding-bottom: var(--space-2);
  color: var(--ink-soft);
  font: 600 var(--type-4) var(--font-sign);
}

h3 {
  padding-top: var(--space-5);
}

.soft {
  padding-bottom: var(--space-3);
}

.own .key {
  grid-template-columns: 5rem 1fr;
  align-items: end;
  justify-items: stretch;
  margin-top: var(--space-3);
}

.own .key .el-button {
  grid-column: 1 / -1;
  justify-self: start;
}

textarea {
  width: 100%;
  padding: var(--space-2);
  background: var(--sheet);
  border: 1px solid var(--edge-strong);
  border-radius: var(--round);
  color: var(--ink);
  font: inherit;
  resize: vertical;
}

li {
  display: grid;
  grid-template-columns: 2rem 1fr auto;
  gap: var(--space-3);
  align-items: center;
  padding: var(--space-1) 0;
  border-bottom: var(--line);
}
</style>
