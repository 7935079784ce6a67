<script setup lang="ts">
import { useDebounceFn, useThrottleFn } from '@vueuse/core'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import type { LogPage, LogRow } from '~~/shared/log'
import { longestNote, type RecordingRow, type RecordingsPage } from '~~/shared/recordings'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: t('recordings.recordingsEstafette') })

/** Recorded calls: found, heard, noted, deleted by whoever has the right. */
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const { failure: refusal, sending, send } = useForm()
const rows = ref<RecordingRow[]>([])
const next = ref<string | null>(null)
const text = ref('')
const loading = ref(true)
const failure = ref<string | null>(null)
const chosenId = ref<string | null>(null)
let asked = 0

const chosen = computed<RecordingRow | null>(before =>
  rows.value.find(({ id }) => id === chosenId.value) ?? (before && before.id === chosenId.value ? before : null) ?? rows.value[0] ?? null)
const who = (row: RecordingRow) => row.name ?? (row.number ? formatNumber(row.number) : t('common.numberWithheld'))
const withWhom = (row: RecordingRow) => row.with ? say(row.names[row.with] ?? directory.nameOf(row.with)) : ''
const lineOf = (row: RecordingRow) => row.line ? live.company?.lines[row.line]?.name ?? row.line : ''
const lasted = (row: RecordingRow) => row.deletedBy === null ? spell(row.seconds * 1_000) : ''

async function load(more = false): Promise<void> {
  const mine = ++asked
  loading.value = true
  try {
    const page = await $fetch<RecordingsPage>('/api/recordings', { query: { text: text.value, ...more && next.value && { before: next.value } } })
    if (mine !== asked) return
    rows.value = more ? [...rows.value, ...page.rows] : page.rows
    next.value = page.next
    failure.value = null
  }
  catch (error) {
    if (mine === asked) failure.value = sentenceOf(error)
  }
  finally {
    if (mine === asked) loading.value = false
  }
}
watch(text, useDebounceFn(() => load(), 150))
const follow = useThrottleFn(() => load(), 2_000, true)
live.onHappening((happenings) => {
  if (happenings.some(({ event, before }) => event.type.startsWith('recording') || before?.recording)) void follow()
})
onMounted(load)

/** The call that was recorded, with its story. */
const call = ref<LogRow | null>(null)
async function tell(): Promise<void> {
  const of = chosen.value?.call
  if (!of) return
  try {
    const { rows: [found] } = await $fetch<LogPage>('/api/calls', { query: { call: of } })
    if (of === chosen.value?.call) call.value = found ?? null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}
watch(() => chosen.value?.call, () => {
  call.value = null
  void tell()
})

const note = ref('')
/** The note as it was when it began to be changed. */
const seen = ref('')
const deleting = ref(false)
watch(() => [chosen.value?.id, chosen.value?.note] as const, ([id, now], before) => {
  // Whatever is being written stays when the list comes anew.
  if (id === before?.[0] && note.value !== seen.value) return
  note.value = seen.value = now ?? ''
  deleting.value = false
}, { immediate: true })

const address = (id: string) => `/api/recordings/${encodeURIComponent(id)}`
async function keepNote(): Promise<void> {
  const { id } = chosen.value!
  if (!await send({ note: t('recordings.note') }, () => $fetch(address(id), { method: 'PUT', body: { note: note.value, before: seen.value } }))) return
  seen.value = note.value
  desk.say(t('recordings.noteKept'))
  await load()
}

/** The keyboard stays where it was: what asks once more has the same place. */
const heading = useTemplateRef<HTMLElement>('heading')
async function remove(): Promise<void> {
  const { id } = chosen.value!
  if (!await send({}, () => $fetch(address(id), { method: 'DELETE' }))) return
  deleting.value = false
  desk.say(t('recordings.isDeleted'))
  await load()
  heading.value?.focus()
}
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <LogHead :title="t('recordings.recordings')" />
      <el-input
        v-model="text"
        class="search"
        :aria-label="t('recordings.search')"
        :placeholder="t('recordings.searchFor')"
        clearable
      />
    </div>
    <FailureNote :text="failure" />
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        :aria-label="t('recordings.recordingsTheLatestFirst')"
      >
        <RecordsTable
          v-slot="{ row }"
          :columns="[t('common.when'), t('recordings.who'), t('recordings.line'), t('recordings.with'), t('recordings.length'), t('recordings.note')]"
          :rows="rows"
          :key-of="row => row.id"
          :class-of="row => chosen && row.id === chosen.id ? 'chosen' : undefined"
          :empty="loading || failure ? null : text ? t('recordings.nothingFound') : t('recordings.noneYet')"
          whole
        >
          <td>{{ shownAt(row.at).format('D MMM H:mm:ss') }}</td>
          <td>
            <button
              type="button"
              class="choose"
              :aria-pressed="chosen !== null && row.id === chosen.id"
              @click="chosenId = row.id"
            >
              {{ who(row) }}
            </button>
          </td>
          <td>{{ lineOf(row) }}</td>
          <td>{{ withWhom(row) }}</td>
          <td>{{ lasted(row) }}</td>
          <td>{{ row.deletedBy === null ? row.note : t('recordings.deletedBy', { name: row.deletedBy }) }}</td>
        </RecordsTable>
        <el-button
          v-if="next"
          class="more"
          :loading="loading"
          @click="load(true)"
        >
          {{ t('recordings.earlier') }}
        </el-button>
      </div>
      <aside
        v-if="chosen"
        class="details"
        :aria-label="t('recordings.theChosenRecording')"
      >
        <h2
          ref="heading"
          tabindex="-1"
        >
          {{ who(chosen) }}
        </h2>
        <p class="soft">
          {{ [shownAt(chosen.at).format('D MMM H:mm'), lineOf(chosen), withWhom(chosen)].filter(Boolean).join(', ') }}
        </p>
        <template v-if="chosen.deletedBy === null">
          <LazyVoicePlayer
            :key="chosen.id"
            class="sound"
            :address="`${address(chosen.id)}/sound`"
            :label="t('recordings.soundOfTheCallOf', { who: who(chosen) })"
            file="recording.wav"
          />
          <form
            class="note"
            @submit.prevent="keepNote"
          >
            <label for="recording-note">{{ t('recordings.noteLabel', { who: who(chosen) }) }}</label>
            <textarea
              id="recording-note"
              v-model="note"
              rows="2"
              :maxlength="longestNote"
              @keydown.ctrl.enter.prevent="keepNote"
            />
            <p
              v-if="chosen.notedBy"
              class="soft"
            >
              {{ t('recordings.notedBy', { name: chosen.notedBy }) }}
            </p>
            <p
              v-if="deleting"
              role="status"
            >
              {{ t('recordings.soundWillBeGone') }}
            </p>
            <p class="button-row">
              <el-button
                native-type="submit"
                :disabled="note === seen"
                :loading="sending"
              >
                {{ t('recordings.keepTheNote') }}
              </el-button>
              <el-button
                v-if="deleting"
                type="danger"
                @click="remove"
              >
                {{ t('recordings.deleteForGood') }}
              </el-button>
              <el-button
                v-else
                @click="deleting = true"
              >
                {{ t('recordings.deleteIt') }}
              </el-button>
              <el-button
                v-if="deleting"
                @click="deleting = false"
              >
                {{ t('recordings.keepIt') }}
              </el-button>
            </p>
            <FailureNote :text="refusal" />
          </form>
        </template>
        <p v-else>
          {{ t('recordings.soundIsGone', { name: chosen.deletedBy }) }}
        </p>
        <template v-if="call">
          <h3>{{ t('common.whatHappened') }}</h3>
          <StoryList :lines="storyOf(call)" />
        </template>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.search {
  max-width: 20rem;
  margin-left: auto;
}

.sound,
.note {
  margin-top: var(--space-3);
}

.note {
  display: grid;
  gap: var(--space-2);
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
</style>
