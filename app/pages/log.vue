<script setup lang="ts">
import { useDebounceFn, useThrottleFn, useTimeoutFn } from '@vueuse/core'
import type { Outcome } from '~~/core/calls/record'
import type { LogKind, LogPage, LogRow } from '~~/shared/log'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: t('log.callLogEstafette') })

const kinds: { value: LogKind, label: string }[] = [
  { value: 'all', label: t('common.all') },
  { value: 'in', label: t('log.in') },
  { value: 'out', label: t('log.out') },
  { value: 'missed', label: t('log.missed') },
  { value: 'dialled', label: t('log.dialledByMe') },
]
const outcomes: Record<Outcome, string> = {
  live: t('log.underWay'), answered: t('common.answered'), missed: t('log.nobodyAnswered'), promised: t('log.toBeCalledBack'), gaveUp: t('log.gaveUpWaiting'),
  voicemail: t('log.leftInAVoicemail'), blocked: t('log.blocked'),
  notReached: t('log.notReached'), joined: t('log.joinedToAnother'), lost: t('log.lost'),
}

const kind = ref<LogKind>('all')
const text = ref('')
const line = ref('')
const outcome = ref<Outcome | ''>('')
const day = ref<Date | null>(null)
const directory = useDirectory()
const rows = ref<LogRow[]>([])
const next = ref<string | null>(null)
const loading = ref(true)
const failure = ref<string | null>(null)
const live = useLive()
/** Older pages are on the screen. */
const reading = ref(false)
let asked = 0
const chosenId = ref<string | null>(null)
/** The call chosen, or the newest; one chosen stays when the list goes on. */
const chosen = computed<LogRow | null>(before =>
  rows.value.find(({ id }) => id === chosenId.value) ?? (before && before.id === chosenId.value ? before : null) ?? rows.value[0] ?? null)
const filtered = computed(() => Boolean(text.value || line.value || outcome.value || day.value || kind.value !== 'all'))

async function load(more = false): Promise<void> {
  const mine = ++asked
  loading.value = true
  failure.value = null
  again.stop()
  try {
    const within = day.value && boundsOfDay(day.value)
    const query = {
      text: text.value, kind: kind.value, ...within,
      ...(line.value && { line: line.value }), ...(outcome.value && { outcome: outcome.value }), ...(more && next.value && { before: next.value }),
    }
    const page = await $fetch<LogPage>('/api/calls', { query })
    // An answer to an older question says nothing about this one.
    if (mine !== asked) return
    reading.value = more
    rows.value = more ? [...rows.value, ...page.rows] : page.rows
    next.value = page.next
  }
  catch (error) {
    if (mine !== asked) return
    failure.value = sentenceOf(error)
    if (!more) again.start()
  }
  finally {
    if (mine === asked) loading.value = false
  }
}

// What could not be had is asked for again a while later.
const again = useTimeoutFn(() => void load(), pauseAfterFailure, { immediate: false })
const search = useDebounceFn(() => load(), 150)
watch(text, search)
watch([kind, line, outcome, day], () => load())
onMounted(() => load())

// Whoever reads on in older calls is left in peace; else the list follows what happens.
const follow = useThrottleFn(() => { if (!reading.value) void load() }, 1_000, true)
live.onHappening((happenings) => {
  if (happenings.some(({ event }) => event.type !== 'callInformation' && 'call' in event)) void follow()
})
watch(() => live.news.dealtWith, follow)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <LogHead :title="t('log.callLog')" />
      <el-radio-group
        v-model="kind"
        :aria-label="t('log.whichCalls')"
      >
        <el-radio-button
          v-for="option in kinds"
          :key="option.value"
          :value="option.value"
        >
          {{ option.label }}
        </el-radio-button>
      </el-radio-group>
      <label
        for="log-text"
        class="unseen"
      >{{ t('log.filterByNumberNameOr') }}</label>
      <el-input
        id="log-text"
        v-model="text"
        class="text"
        :placeholder="t('log.numberNameExtension')"
        clearable
        maxlength="100"
      />
      <el-select
        v-model="line"
        class="line"
        :aria-label="t('common.line')"
        :placeholder="t('log.everyLine')"
        clearable
      >
        <el-option
          v-for="known in directory.lines"
          :key="known.id"
          :value="known.id"
          :label="known.name"
        />
      </el-select>
      <el-select
        v-model="outcome"
        class="line"
        :aria-label="t('log.whatBecameOfIt')"
        :placeholder="t('log.anyOutcome')"
        clearable
      >
        <el-option
          v-for="(label, value) in outcomes"
          :key="value"
          :value="value"
          :label="label"
        />
      </el-select>
      <el-date-picker
        v-model="day"
        class="day"
        type="date"
        :placeholder="t('log.anyDay')"
        :aria-label="t('log.day')"
        format="D MMM YYYY"
      />
    </div>
    <HistoryNotice @more="follow" />
    <FailureNote :text="failure" />
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        :aria-label="t('log.callsTheNewestFirst')"
      >
        <LogTable
          v-if="rows.length"
          :rows="rows"
          :chosen="chosen?.id ?? null"
          @choose="chosenId = $event"
        />
        <p
          v-else-if="!loading && !failure"
          class="empty"
        >
          {{ filtered ? t('log.noCallFitsTakeAway') : t('log.noCallYetEveryCall') }}
        </p>
        <el-button
          v-if="next"
          class="more"
          :loading="loading"
          @click="load(true)"
        >
          {{ t('log.showOlderCalls') }}
        </el-button>
      </div>
      <CallDetails
        v-if="chosen"
        :row="chosen"
        @changed="load()"
      />
    </div>
  </div>
</template>

<style scoped>
.text {
  width: 11.5rem;
}

.line {
  width: 8rem;
}

.bar :deep(.day) {
  --el-date-editor-width: 8.5rem;
}

.more {
  display: flex;
  margin: var(--space-4) auto;
}
</style>
