<script setup lang="ts">
import { useDebounceFn, useThrottleFn } from '@vueuse/core'
import type { LogKind, LogPage, LogRow } from '~~/shared/log'
import { useLive } from '~/stores/live'

useHead({ title: 'Call log · Estafette' })

const kinds: { value: LogKind, label: string }[] = [
  { value: 'all', label: 'All' },
  { value: 'in', label: 'In' },
  { value: 'out', label: 'Out' },
  { value: 'missed', label: 'Missed' },
  { value: 'dialled', label: 'Dialled by me' },
]
/** Telephone links of other pages open the console with the number in the field. */
const canHandleLinks = 'registerProtocolHandler' in navigator
function handleLinks(): void {
  navigator.registerProtocolHandler('tel', `${location.origin}/?dial=%s`)
}

const kind = ref<LogKind>('all')
const text = ref('')
const rows = ref<LogRow[]>([])
const next = ref<string | null>(null)
const loading = ref(true)
const failure = ref<string | null>(null)
const live = useLive()
/** Older pages are on the screen. */
const reading = ref(false)
let asked = 0

async function load(more = false): Promise<void> {
  const mine = ++asked
  loading.value = true
  failure.value = null
  try {
    const page = await $fetch<LogPage>('/api/calls', { query: { text: text.value, kind: kind.value, ...(more && next.value && { before: next.value }) } })
    // An answer to an older question says nothing about this one.
    if (mine !== asked) return
    reading.value = more
    rows.value = more ? [...rows.value, ...page.rows] : page.rows
    next.value = page.next
  }
  catch (error) {
    if (mine === asked) failure.value = sentenceOf(error)
  }
  finally {
    if (mine === asked) loading.value = false
  }
}

const search = useDebounceFn(() => load(), 150)
watch(text, search)
watch(kind, () => load())
onMounted(() => load())

// Whoever reads on in older calls is left in peace; else the list follows what happens.
const follow = useThrottleFn(() => { if (!reading.value) void load() }, 1_000, true)
live.onHappening((happenings) => {
  if (happenings.some(({ event }) => event.type !== 'callInformation' && 'call' in event)) void follow()
})
</script>

<template>
  <div class="log">
    <div class="bar">
      <h1>Call log</h1>
      <el-radio-group
        v-model="kind"
        aria-label="Which calls"
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
      >Filter by number, name or extension</label>
      <el-input
        id="log-text"
        v-model="text"
        class="text"
        placeholder="Number, name or extension"
        clearable
        maxlength="100"
      />
      <el-button
        :loading="loading"
        @click="load()"
      >
        Refresh
      </el-button>
      <el-button
        v-if="canHandleLinks"
        text
        @click="handleLinks"
      >
        Open telephone links here
      </el-button>
    </div>
    <FailureNote :text="failure" />
    <LogTable
      v-if="rows.length"
      :rows="rows"
    />
    <p
      v-else-if="!loading && !failure"
      class="empty"
    >
      {{ text || kind !== 'all' ? 'No call fits. Take away a word, or show all calls.' : 'No call yet. Every call stands here as soon as it begins.' }}
    </p>
    <el-button
      v-if="next"
      class="more"
      :loading="loading"
      @click="load(true)"
    >
      Show older calls
    </el-button>
  </div>
</template>

<style scoped>
.log {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: var(--space-4) var(--space-5);
}

.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-4);
  padding-bottom: var(--space-4);
}

h1 {
  font: 700 var(--type-5) var(--font-sign);
}

.text {
  width: min(20rem, 100%);
}

.failure {
  padding: var(--space-3) var(--space-4);
  border-left: 4px solid var(--alarm);
  background: var(--sheet);
}

.empty {
  padding: var(--space-7);
  color: var(--ink-soft);
  text-align: center;
}

.more {
  margin: var(--space-4) auto;
  display: flex;
}
</style>
