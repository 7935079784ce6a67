<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import type { Upkeep } from '~~/shared/people'

useHead({ title: 'Upkeep · Estafette' })

const upkeep = ref<Upkeep | null>(null)
const failure = ref<string | null>(null)

async function load(): Promise<void> {
  try {
    upkeep.value = await $fetch<Upkeep>('/api/upkeep')
    failure.value = null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

const lines = computed(() => {
  if (!upkeep.value) return []
  const { database, exchange, sound, journal, setAside } = upkeep.value
  return [
    { what: 'Telephone exchange', well: exchange, words: exchange ? 'carries calls' : 'does not answer; the consoles say so' },
    { what: 'Sound', well: !sound.here || sound.process?.exchange === 'up', words: soundWords(sound) },
    { what: 'Database', well: database, words: database ? 'takes everything that happens' : 'does not answer; calls go on, and what happens is kept' },
    {
      what: 'Journal', well: journal.spilledBytes === 0 && !journal.losing,
      words: journal.losing
        ? 'has no room left in memory or on the disk: make room. The exchange is asked for what is missing when the database is back'
        : journal.spilledBytes > 0
          ? `${journal.behind} events wait in memory and ${Math.ceil(journal.spilledBytes / 1024)} kB in a file`
          : journal.behind > 0 ? `${journal.behind} events wait to be written` : 'is up to date',
    },
    {
      what: 'Gaps', well: journal.gaps.length === 0,
      words: journal.gaps.length === 0
        ? 'none: nothing that happened is missing'
        : `${journal.gaps.length}: something happened there that nobody knows any more`,
    },
    { what: 'Not written', well: setAside.length === 0, words: setAside.length ? `${setAside.length} that the database would not keep` : 'nothing' },
  ]
})

function soundWords({ here, process }: Upkeep['sound']): string {
  if (!here) return 'none: this house runs without'
  if (!process) return 'does not answer; calls go on without'
  if (process.exchange === 'down') return 'does not hear the exchange; whoever talks goes on'
  return process.speech === 'up' ? 'carries voices' : 'carries voices; espeak-ng is not installed, so that nothing is said by the house itself'
}

function gapWords({ epoch, after, before }: Upkeep['journal']['gaps'][number]): string {
  return before === null ? `All after event ${after} of ${epoch}: the exchange has begun anew since` : `Events ${after + 1} to ${before - 1} of ${epoch}`
}

type SetAside = Upkeep['setAside'][number]
const keyOf = (entry: SetAside) => `${entry.epoch} ${entry.seq}`
const chosenKey = ref<string | null>(null)
/** The item chosen, or the newest. */
const chosen = computed<SetAside | null>(() => {
  const all = upkeep.value?.setAside ?? []
  return all.find(entry => keyOf(entry) === chosenKey.value) ?? all[0] ?? null
})

function read(item: string): { event?: { type?: string } } | null {
  try {
    return JSON.parse(item)
  }
  catch {
    return null
  }
}

const kindOf = (item: string) => read(item)?.event?.type ?? 'Unreadable'
const asLines = (item: string) => JSON.stringify(read(item), null, 2) ?? item

onMounted(load)
useIntervalFn(load, 3_000)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Upkeep</h1>
    </div>
    <FailureNote :text="failure" />
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        aria-label="What runs this house"
      >
        <dl
          v-if="upkeep"
          class="state"
        >
          <div
            v-for="line in lines"
            :key="line.what"
            :class="{ unwell: !line.well }"
          >
            <dt>{{ line.what }}</dt>
            <dd>{{ line.words }}</dd>
          </div>
        </dl>
        <template v-if="upkeep?.journal.gaps.length">
          <h2>Gaps</h2>
          <RecordsTable
            v-slot="{ row: gap }"
            :columns="['Found', 'What is missing']"
            :rows="upkeep.journal.gaps"
            :key-of="gap => `${gap.epoch} ${gap.after}`"
            :empty="null"
          >
            <td>{{ shownAt(gap.at).format('D MMM H:mm:ss') }}</td>
            <td>{{ gapWords(gap) }}</td>
          </RecordsTable>
        </template>
        <template v-if="upkeep?.setAside.length">
          <h2>Events that could not be written</h2>
          <RecordsTable
            v-slot="{ row: entry }"
            :columns="['When', 'What', 'Why']"
            :rows="upkeep.setAside"
            :key-of="keyOf"
            :class-of="entry => chosen && keyOf(entry) === keyOf(chosen) ? 'chosen' : undefined"
            :empty="null"
          >
            <td>{{ shownAt(entry.at).format('D MMM H:mm:ss') }}</td>
            <td>
              <button
                type="button"
                class="choose"
                :aria-pressed="chosen !== null && keyOf(entry) === keyOf(chosen)"
                @click="chosenKey = keyOf(entry)"
              >
                {{ kindOf(entry.item) }}, event {{ entry.seq }}
              </button>
            </td>
            <td>{{ entry.reason }}</td>
          </RecordsTable>
        </template>
      </div>
      <aside
        class="details"
        aria-label="What was set aside"
      >
        <template v-if="chosen">
          <h2>{{ kindOf(chosen.item) }}, event {{ chosen.seq }}</h2>
          <p class="soft">
            Of {{ chosen.epoch }}, {{ shownAt(chosen.at).format('dddd, D MMMM, H:mm:ss') }}
          </p>
          <p class="why">
            {{ chosen.reason }}
          </p>
          <h3>What it was</h3>
          <pre tabindex="0">{{ asLines(chosen.item) }}</pre>
        </template>
        <template v-else>
          <h2>Nothing is set aside</h2>
          <p class="soft">
            What the database would not keep for what is in it would stand here, with its reason and whole, and would delay nothing else.
          </p>
        </template>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.state {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(18rem, 1fr));
  gap: var(--space-4);
}

.state div {
  padding: var(--space-4) var(--space-5);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round-large);
}

.state .unwell {
  border-left: 4px solid var(--alarm);
}

dt {
  font: 700 var(--type-4) var(--font-sign);
}

.list h2 {
  padding: var(--space-5) 0 var(--space-3);
  font: 700 var(--type-4) var(--font-sign);
}

.why {
  padding-top: var(--space-3);
  font-weight: 650;
}

pre {
  overflow: auto;
  font-size: var(--type-2);
}
</style>
