<script setup lang="ts">
import { changeInWords, headline, warningOf } from '~~/core/figures/words'
import type { Figures } from '~~/shared/figures'
import { useLive } from '~/stores/live'

useHead({ title: t('figures.reportsEstafette') })

/** What happened in a period: charts first, in words for who does not see them, tables beneath; compared with an earlier one. */
const live = useLive()
const period = usePeriod(today => [today.toDate(), today.toDate()])
const comparison = ref<Comparison>('none')
const line = ref('')
const queue = ref('')
const report = ref<Figures | null>(null)
const before = ref<Figures | null>(null)
const failure = ref<string | null>(null)
const counting = ref(false)
let asked = new AbortController()

const query = computed(() => ({ from: asDay(period.value[0]), to: asDay(period.value[1]), line: line.value, queue: queue.value }))
const earlierPeriod = computed(() => earlier(period.value, comparison.value))
const rule = useLevelRule()
const lines = computed(() => Object.values(live.company?.lines ?? {}))
const queues = computed(() => Object.values(live.company?.groups ?? {}).filter(({ distribution }) => distribution === 'queue'))
const fileOf = (table: string) => `/api/figures/export?${new URLSearchParams({ ...query.value, table }).toString()}`

async function load(): Promise<void> {
  asked.abort()
  asked = new AbortController()
  const { signal } = asked
  counting.value = true
  const ask = (of: Period) => $fetch<Figures>('/api/figures', { query: { ...query.value, from: asDay(of[0]), to: asDay(of[1]) }, signal })
  try {
    const [now, then] = await Promise.all([ask(period.value), earlierPeriod.value && ask(earlierPeriod.value)])
    if (signal.aborted) return
    report.value = now
    before.value = then
    failure.value = null
  }
  catch (error) {
    if (!signal.aborted) failure.value = sentenceOf(error)
  }
  if (!signal.aborted) counting.value = false
}
watch([query, earlierPeriod], load)
onMounted(load)
onBeforeUnmount(() => asked.abort())

const nameOf = (id: string) => report.value?.names[id] ?? id
const warning = computed(() => report.value && warningOf(t, report.value.total.offered))
const heads = computed(() => {
  const then = before.value && headline(t, before.value.total, rule.value)
  return report.value
    ? headline(t, report.value.total, rule.value).map((one, at) => ({ ...one, change: changeInWords(t, one.of, then?.[at]?.of ?? null) }))
    : []
})

const print = () => window.print()
</script>

<template>
  <div class="records-page figures-page">
    <div class="bar">
      <FiguresHead :title="t('figures.lookBack')" />
      <PeriodPicker v-model="period" />
      <el-select
        v-model="line"
        class="choice"
        :empty-values="[null, undefined]"
        :aria-label="t('common.line')"
      >
        <el-option
          value=""
          :label="t('figures.everyLine')"
        />
        <el-option
          v-for="one in lines"
          :key="one.id"
          :value="one.id"
          :label="one.name"
        />
      </el-select>
      <el-select
        v-model="queue"
        class="choice"
        :empty-values="[null, undefined]"
        :aria-label="t('common.queue')"
      >
        <el-option
          value=""
          :label="t('figures.wholeCalls')"
        />
        <el-option
          v-for="one in queues"
          :key="one.id"
          :value="one.id"
          :label="one.name"
        />
      </el-select>
      <el-select
        v-model="comparison"
        class="choice"
        :aria-label="t('figures.comparedWith')"
      >
        <el-option
          v-for="(words, key) in comparisons"
          :key="key"
          :value="key"
          :label="t(words)"
        />
      </el-select>
      <el-button @click="print">
        {{ t('common.print') }}
      </el-button>
      <span
        class="counting"
        role="status"
      >{{ counting ? t('figures.counting') : '' }}</span>
    </div>
    <HistoryNotice @more="load" />
    <FailureNote :text="failure" />
    <p class="printed">
      {{ inWords(period) }}{{ line ? `, ${nameOf(line)}` : '' }}{{ queue ? `, ${nameOf(queue)}` : '' }}
      {{ earlierPeriod ? t('figures.comparedWithInline', { inWords: inWords(earlierPeriod) }) : '' }}
    </p>
    <template v-if="report">
      <dl
        class="heads"
        :aria-label="t('figures.inShort')"
      >
        <div
          v-for="one in heads"
          :key="one.name"
        >
          <dt>{{ one.name }}</dt>
          <dd>{{ one.value }}</dd>
          <dd
            v-if="comparison !== 'none'"
            class="change"
          >
            {{ one.change ?? '–' }}
          </dd>
        </div>
      </dl>
      <p
        v-if="warning"
        class="warning"
      >
        {{ warning }}
      </p>
      <ReportCharts
        :report="report"
        :before="before"
        :rule="rule"
        :file-of="fileOf"
        :of-queue="queue !== ''"
      />
    </template>
    <p
      v-else-if="!failure"
      class="empty"
    >
      {{ t('figures.theFiguresAreBeingCounted') }}
    </p>
  </div>
</template>

<style scoped>
.choice {
  width: 11rem;
}

.bar :deep(.el-date-editor) {
  flex: none;
  width: 16rem;
}

.counting {
  color: var(--ink-soft);
}

.heads {
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  gap: var(--space-3);
  padding-bottom: var(--space-4);
}

.heads div {
  padding: var(--space-3) var(--space-4);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round);
}

.heads dt,
.heads .change {
  color: var(--ink-soft);
  font-size: var(--type-2);
}

.heads dd {
  font: 700 var(--type-5)/1.2 var(--font-sign);
}

.heads .change {
  font: 400 var(--type-2) var(--font-text);
}

.warning {
  padding-bottom: var(--space-4);
  color: var(--alarm);
  font-weight: 700;
}

.printed {
  display: none;
}

@media (max-width: 60rem) {
  .heads {
    grid-template-columns: repeat(auto-fit, minmax(7rem, 1fr));
  }
}

@media print {
  .printed {
    display: block;
    padding-bottom: var(--space-4);
  }

  .bar > :not(h1) {
    display: none;
  }
}
</style>
