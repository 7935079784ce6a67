<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import type { Upkeep } from '~~/shared/people'

useHead({ title: t('upkeep.upkeepEstafette') })

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
    { what: t('upkeep.telephoneExchange'), well: exchange, words: exchange ? t('upkeep.carriesCalls') : t('upkeep.doesNotAnswerTheConsoles') },
    { what: t('upkeep.sound'), well: !sound.here || sound.process?.exchange === 'up', words: soundWords(sound) },
    { what: t('upkeep.database'), well: database, words: database ? t('upkeep.takesEverythingThatHappens') : t('upkeep.doesNotAnswerCallsGo') },
    {
      what: t('upkeep.journal'), well: journal.spilledBytes === 0 && !journal.losing,
      words: journal.losing
        ? t('upkeep.hasNoRoomLeftIn')
        : journal.spilledBytes > 0
          ? t('upkeep.eventsWaitInMemoryAnd', { behind: journal.behind, ceil: Math.ceil(journal.spilledBytes / 1024) })
          : journal.behind > 0 ? t('upkeep.eventsWaitToBeWritten', { behind: journal.behind }) : t('upkeep.isUpToDate'),
    },
    {
      what: t('upkeep.gaps'), well: journal.gaps.length === 0,
      words: journal.gaps.length === 0
        ? t('upkeep.noneNothingThatHappenedIs')
        : t('upkeep.somethingHappenedThereThatNobody', { count: journal.gaps.length }),
    },
    { what: t('upkeep.notWritten'), well: setAside.length === 0, words: setAside.length
      ? t('upkeep.thatTheDatabaseWouldNot', { count: setAside.length })
      : t('upkeep.nothing') },
  ]
})

function soundWords({ here, process }: Upkeep['sound']): string {
  if (!here) return t('upkeep.noneThisHouseRunsWithout')
  if (!process) return t('upkeep.doesNotAnswerCallsGoOn')
  if (process.exchange === 'down') return t('upkeep.doesNotHearTheExchange')
  return process.speech === 'up' ? t('upkeep.carriesVoices') : t('upkeep.carriesVoicesEspeakNgIs')
}

function gapWords({ epoch, after, before }: Upkeep['journal']['gaps'][number]): string {
  return before === null ? t('upkeep.allAfterEventOfThe', { after, epoch }) : t('upkeep.eventsToOf', { n: after + 1, n2: before - 1, epoch })
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

const kindOf = (item: string) => read(item)?.event?.type ?? t('upkeep.unreadable')
const asLines = (item: string) => JSON.stringify(read(item), null, 2) ?? item

onMounted(load)
useIntervalFn(load, 3_000)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('upkeep.upkeep') }}</h1>
    </div>
    <FailureNote :text="failure" />
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        :aria-label="t('upkeep.whatRunsThisHouse')"
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
          <h2>{{ t('upkeep.gaps') }}</h2>
          <RecordsTable
            v-slot="{ row: gap }"
            :columns="[t('upkeep.found'), t('upkeep.whatIsMissing')]"
            :rows="upkeep.journal.gaps"
            :key-of="gap => `${gap.epoch} ${gap.after}`"
            :empty="null"
          >
            <td>{{ shownAt(gap.at).format('D MMM H:mm:ss') }}</td>
            <td>{{ gapWords(gap) }}</td>
          </RecordsTable>
        </template>
        <template v-if="upkeep?.setAside.length">
          <h2>{{ t('upkeep.eventsThatCouldNotBe') }}</h2>
          <RecordsTable
            v-slot="{ row: entry }"
            :columns="[t('common.when'), t('common.what'), t('upkeep.why')]"
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
                {{ t('upkeep.kindOfEventSeq', { kindOf: kindOf(entry.item), seq: entry.seq }) }}
              </button>
            </td>
            <td>{{ entry.reason }}</td>
          </RecordsTable>
        </template>
      </div>
      <aside
        class="details"
        :aria-label="t('upkeep.whatWasSetAside')"
      >
        <template v-if="chosen">
          <h2>{{ t('upkeep.kindOfEventSeq', { kindOf: kindOf(chosen.item), seq: chosen.seq }) }}</h2>
          <p class="soft">
            {{ t('upkeep.ofEpochAt', { epoch: chosen.epoch, at: shownAt(chosen.at).format('dddd, D MMMM, H:mm:ss') }) }}
          </p>
          <p class="why">
            {{ chosen.reason }}
          </p>
          <h3>{{ t('upkeep.whatItWas') }}</h3>
          <pre tabindex="0">{{ asLines(chosen.item) }}</pre>
        </template>
        <template v-else>
          <h2>{{ t('upkeep.nothingIsSetAside') }}</h2>
          <p class="soft">
            {{ t('upkeep.whatTheDatabaseWouldNot') }}
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
