<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import dayjs from 'dayjs'
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
  const { database, exchange, journal, setAside } = upkeep.value
  return [
    { what: 'Telephone exchange', well: exchange, words: exchange ? 'carries calls' : 'does not answer; the consoles say so' },
    { what: 'Database', well: database, words: database ? 'takes everything that happens' : 'does not answer; calls go on, and what happens is kept' },
    {
      what: 'Journal', well: journal.spilledBytes === 0,
      words: journal.spilledBytes > 0
        ? `${journal.behind} events wait in memory and ${Math.ceil(journal.spilledBytes / 1024)} kB in a file`
        : journal.behind > 0 ? `${journal.behind} events wait to be written` : 'is up to date',
    },
    { what: 'Set aside', well: setAside.length === 0, words: setAside.length ? `${setAside.length} that the database would not keep` : 'nothing' },
  ]
})

onMounted(load)
useIntervalFn(load, 3_000)
</script>

<template>
  <div class="records-page">
    <h1>Upkeep</h1>
    <FailureNote :text="failure" />
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
    <template v-if="upkeep?.setAside.length">
      <h2>Set aside</h2>
      <RecordsTable
        v-slot="{ row: entry }"
        :columns="['When', 'Event', 'Why', 'What it was']"
        :rows="upkeep.setAside"
        :key-of="entry => `${entry.epoch} ${entry.seq}`"
        :empty="null"
      >
        <td>{{ dayjs(entry.at).format('D MMM H:mm:ss') }}</td>
        <td>{{ entry.seq }} of {{ entry.epoch }}</td>
        <td>{{ entry.reason }}</td>
        <td><code>{{ entry.item }}</code></td>
      </RecordsTable>
    </template>
    <p
      v-else-if="upkeep"
      class="soft note"
    >
      What the database would not keep for what is in it would stand here, with its reason, and would delay nothing else.
    </p>
  </div>
</template>

<style scoped>
.state {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(16rem, 1fr));
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

h2 {
  padding: var(--space-5) 0 var(--space-3);
  font: 700 var(--type-4) var(--font-sign);
}

.note {
  padding-top: var(--space-5);
}

code {
  display: block;
  max-height: 6rem;
  overflow: auto;
  overflow-wrap: anywhere;
  font-size: var(--type-2);
}
</style>
