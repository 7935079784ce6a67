<script setup lang="ts">
import dayjs from 'dayjs'
import { spell } from '~~/core/durations/durations'
import { type LevelRule, meanTalk, meanWait, serviceLevel, type Tally } from '~~/core/figures/service-level'
import {
  againInWords, callsInWords, cameBackInWords, changeInWords, clockOf, givingUp, givingUpInWords, headline, levelInWords, minutesInWords, operatorsInWords,
  parkingsInWords, share, waitsInWords, warningOf,
} from '~~/core/figures/words'
import type { Figures } from '~~/shared/figures'
import { useLive } from '~/stores/live'

useHead({ title: 'Figures · Estafette' })

/** What happened in a period: charts first, in words for who does not see them, tables beneath; compared with an earlier one. */
const live = useLive()
const period = ref<Period>([dayjs().subtract(27, 'day').toDate(), dayjs().toDate()])
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
const rule = computed<LevelRule>(() => ({ kind: live.company?.settings.serviceLevel ?? 'offered', shortAbandon: live.company?.settings.shortAbandon ?? 0 }))
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
const warning = computed(() => report.value && warningOf(report.value.total.offered))
const heads = computed(() => {
  const then = before.value && headline(before.value.total, rule.value)
  return report.value ? headline(report.value.total, rule.value).map((one, at) => ({ ...one, change: changeInWords(one.of, then?.[at]?.of ?? null) })) : []
})

/** The half-hours in which anybody called, or talked. */
const hours = computed(() => {
  const busy = (report.value?.byHalfHour ?? []).flatMap(({ tally, minutes }, at) => tally.offered + minutes > 0 ? [at] : [])
  if (busy.length === 0) return []
  const [first, last] = [Math.min(...busy), Math.max(...busy)]
  return Array.from({ length: last - first + 1 }, (_, at) => first + at)
})
const hourLabels = computed(() => hours.value.map(at => clockOf(at)))
const parts = [
  { name: 'answered within the promise', shade: 'within' }, { name: 'answered later', shade: 'late' }, { name: 'gave up', shade: 'gaveUp' },
  { name: 'voicemail, moved on or turned away', shade: 'other' },
]
const partsOf = ({ within, answered, abandoned, offered, waiting }: Tally) =>
  [within, answered - within, abandoned, offered - answered - abandoned - waiting]
const stacked = (tallies: readonly Tally[]) => parts.map((part, at) => ({ ...part, values: tallies.map(tally => partsOf(tally)[at]!) }))
const inHours = computed(() => hours.value.map(at => report.value!.byHalfHour[at]!))
const inHoursBefore = computed(() => before.value && hours.value.map(at => before.value!.byHalfHour[at]!))

const stepLabel = (from: number) => new Date(from).toLocaleDateString('en-GB', {
  timeZone: 'UTC', day: 'numeric', month: 'short', ...report.value?.step === 'month' && { day: undefined, year: '2-digit' },
})
const steps = computed(() => report.value?.bySteps ?? [])

const bounds = [0, 5, 10, 15, 20, 30, 45, 60, 90, 120, 180, 300, 600]
const boundLabels = bounds.map((from, at) => bounds[at + 1] === undefined ? `${from / 60} min+` : from < 60 ? `${from} s` : from % 60 ? spell(from * 1_000) : `${from / 60} min`)
const within = (list: readonly number[]) => bounds.map((from, at) => list.slice(from, bounds[at + 1] ?? Infinity).reduce((sum, count) => sum + count, 0))
const waits = computed(() => report.value && [
  { name: 'answered', shade: 'within', values: within(report.value.waits.answered) }, { name: 'gave up', shade: 'gaveUp', values: within(report.value.waits.abandoned) },
])
const hazards = computed(() => report.value ? givingUp(report.value.waits, bounds) : [])

const seconds = (ms: number | null) => ms === null ? '–' : spell(ms)
const tallyColumns = ['Offered', 'Answered', 'Within', 'Gave up', 'Other', 'Level', 'Mean wait', 'Longest', 'Mean length']
const tallyCells = (tally: Tally) => [
  tally.offered, tally.answered, tally.within, tally.abandoned, partsOf(tally)[3]!, share(serviceLevel(tally, rule.value)), seconds(meanWait(tally)),
  spell(tally.longest), seconds(meanTalk(tally)),
]
const byPlace = computed(() => report.value
  ? [...report.value.byLine.map(one => ({ ...one, kind: 'line' })), ...report.value.byQueue.map(one => ({ ...one, kind: 'queue' }))]
  : [])
const operators = computed(() => [...report.value?.operators ?? []].filter(({ attended }) => attended > 0).sort((a, b) => b.engaged - a.engaged))
const others = computed(() => [...report.value?.operators ?? []].filter(({ attended }) => attended === 0).sort((a, b) => b.calls - a.calls))
const destinations = computed(() => [...report.value?.byDestination ?? []].sort((a, b) => b.calls - a.calls))
const causeWords: Record<string, string> = {
  noAnswer: 'no answer', busy: 'on the telephone', doNotDisturb: 'do not disturb', declined: 'declined', outOfService: 'no telephone', closed: 'closed',
  overflow: 'waited too long', nobodyServes: 'nobody served', withdrawn: 'taken back',
}
const flow = computed(() => flowOf(report.value?.flow ?? [], live.company, nameOf))
const flowWords = computed(() => {
  const [largest] = [...flow.value.links].filter(({ from }) => !from.startsWith('line ')).sort((a, b) => b.calls - a.calls)
  return largest ? `The widest stream: ${flow.value.nameOf(largest.from)} to ${flow.value.nameOf(largest.to)}, ${largest.calls} calls.` : 'No calls.'
})
const print = () => window.print()
</script>

<template>
  <div class="records-page figures-page">
    <div class="bar">
      <FiguresHead title="Reports" />
      <el-date-picker
        v-model="period"
        type="daterange"
        :clearable="false"
        :shortcuts="usualPeriods"
        format="D MMM YYYY"
        start-placeholder="From"
        end-placeholder="To"
        aria-label="Period"
      />
      <el-select
        v-model="line"
        class="choice"
        :empty-values="[null, undefined]"
        aria-label="Line"
      >
        <el-option
          value=""
          label="Every line"
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
        aria-label="Queue"
      >
        <el-option
          value=""
          label="Whole calls"
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
        aria-label="Compared with"
      >
        <el-option
          v-for="(words, key) in comparisons"
          :key="key"
          :value="key"
          :label="words"
        />
      </el-select>
      <el-button @click="print">
        Print
      </el-button>
      <span
        class="counting"
        role="status"
      >{{ counting ? 'Counting…' : '' }}</span>
    </div>
    <FailureNote :text="failure" />
    <p class="printed">
      {{ inWords(period) }}{{ line ? `, ${nameOf(line)}` : '' }}{{ queue ? `, ${nameOf(queue)}` : '' }}
      {{ earlierPeriod ? `compared with ${inWords(earlierPeriod)}` : '' }}
    </p>
    <template v-if="report">
      <dl
        class="heads"
        aria-label="In short"
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
      <div class="charts">
        <ChartFigure
          title="Calls by half-hour"
          :words="callsInWords(report)"
          :legend="parts"
          :compared="before !== null"
          :columns="['From', ...tallyColumns]"
          :rows="inHours.map(({ tally, times }, at) => [`${hourLabels[at]}${times > 1 && report!.bySteps.length === 1 ? ' (twice)' : ''}`, ...tallyCells(tally)])"
          :file="fileOf('halfHours')"
        >
          <StackedBars
            :labels="hourLabels"
            :series="stacked(inHours.map(({ tally }) => tally))"
            :earlier="inHoursBefore?.map(({ tally }) => tally.offered)"
            :every="2"
          />
        </ChartFigure>
        <ChartFigure
          title="Service level"
          :words="levelInWords(report, rule)"
          :warning="steps.length > 1 ? null : 'One day has one point.'"
          :compared="before !== null"
          :columns="['From', ...tallyColumns]"
          :rows="report.total.offered ? steps.map(({ from, tally }) => [stepLabel(from), ...tallyCells(tally)]) : []"
          :file="fileOf('days')"
        >
          <LevelLine
            :labels="steps.map(({ from }) => stepLabel(from))"
            :values="steps.map(({ tally }) => serviceLevel(tally, rule))"
            :earlier="before?.bySteps.map(({ tally }) => serviceLevel(tally, rule))"
            :every="Math.ceil(steps.length / 8)"
          />
        </ChartFigure>
        <ChartFigure
          title="Waits"
          :words="waitsInWords(report)"
          :legend="[parts[0]!, parts[2]!].map((part, at) => ({ ...part, name: ['answered', 'gave up'][at]! }))"
          :columns="['Waited from', 'Answered', 'Gave up']"
          :rows="report.total.offered ? bounds.map((_from, at) => [boundLabels[at]!, waits![0]!.values[at]!, waits![1]!.values[at]!]) : []"
          :file="fileOf('waits')"
        >
          <StackedBars
            :labels="boundLabels"
            :series="waits ?? []"
          />
        </ChartFigure>
        <ChartFigure
          title="Who gives up, by how long they have waited"
          :words="givingUpInWords(report)"
          :columns="['Waited from', 'Still waited', 'Gave up before the next', 'In a hundred']"
          :rows="report.total.abandoned ? hazards.map(({ waited, gaveUp }, at) => [boundLabels[at]!, waited, gaveUp, waited ? (100 * gaveUp / waited).toFixed(1) : '–']) : []"
          :file="fileOf('waits')"
        >
          <StackedBars
            :labels="boundLabels"
            :series="[{ name: 'gave up, in a hundred', shade: 'gaveUp', values: hazards.map(({ waited, gaveUp }) => waited ? 100 * gaveUp / waited : 0) }]"
          />
        </ChartFigure>
        <ChartFigure
          title="Minutes by half-hour"
          :words="minutesInWords(report)"
          :compared="before !== null"
          :columns="['From', 'Minutes']"
          :rows="inHours.map(({ minutes }, at) => [hourLabels[at]!, Math.round(minutes)])"
          :file="fileOf('halfHours')"
        >
          <StackedBars
            :labels="hourLabels"
            :series="[{ name: 'minutes', shade: 'talk', values: inHours.map(({ minutes }) => minutes) }]"
            :earlier="inHoursBefore?.map(({ minutes }) => minutes)"
            :every="2"
          />
        </ChartFigure>
        <ChartFigure
          title="Operators on calls"
          :words="operatorsInWords(operators, nameOf)"
          :columns="['Who', 'Calls', 'On calls', 'Callers on hold', 'There', 'Of it on calls']"
          :rows="operators.map(({ id, calls, talked, held, attended, engaged }) =>
            [nameOf(id), calls, spell(talked), spell(held), spell(attended), share(attended ? engaged / attended : null)])"
          :file="fileOf('operators')"
        >
          <RowBars
            :rows="operators.map(({ id, attended, engaged }) => ({
              name: nameOf(id), value: attended ? engaged / attended : 0, words: share(attended ? engaged / attended : null),
            }))"
            shade="talk"
            :most="1"
          />
        </ChartFigure>
        <ChartFigure
          title="Where calls go"
          :words="flowWords"
          :columns="['From', 'To', 'Calls']"
          :rows="flow.links.map(({ from, to, calls }) => [flow.nameOf(from), flow.nameOf(to), calls])"
          :file="fileOf('flow')"
          wide
        >
          <FlowChart
            :links="flow.links"
            :name-of="flow.nameOf"
          />
        </ChartFigure>
        <ChartFigure
          title="Passed on, and back again"
          :words="cameBackInWords(report, nameOf)"
          :columns="['To', 'Calls', 'Answered', 'Back or further', 'Why']"
          :rows="destinations.map(({ id, calls, answered, back }) => [
            nameOf(id), calls, answered, back.reduce((sum, one) => sum + one.calls, 0), back.map(one => `${causeWords[one.cause] ?? one.cause} ${one.calls}`).join(', '),
          ])"
          :file="fileOf('destinations')"
        >
          <RowBars
            :rows="destinations.map(({ id, calls, back }) => ({ id, calls, backs: back.reduce((sum, one) => sum + one.calls, 0) }))
              .filter(({ backs }) => backs > 0).sort((a, b) => b.backs - a.backs).slice(0, 8)
              .map(({ id, calls, backs }) => ({ name: nameOf(id), value: backs, words: `${backs} of ${calls}` }))"
            shade="gaveUp"
          />
        </ChartFigure>
        <ChartFigure
          title="Lines and queues"
          :words="`${report.byLine.length} lines and ${report.byQueue.length} queues had calls.`"
          :columns="['Which', ...tallyColumns]"
          :rows="byPlace.map(one => [nameOf(one.id), ...tallyCells(one)])"
          :file="fileOf('queues')"
        >
          <RowBars
            :rows="byPlace.map(one => ({ name: nameOf(one.id), value: serviceLevel(one, rule) ?? 0, words: `${share(serviceLevel(one, rule))} of ${one.offered}` }))"
            shade="within"
            :most="1"
          />
        </ChartFigure>
        <ChartFigure
          v-if="!queue"
          title="Called again within a day"
          :words="againInWords(report)"
          :columns="['The call before', 'Calls']"
          :rows="report.again.calls ? [['had been answered', report.again.answered], ['had given up', report.again.abandoned], ['had gone elsewhere', report.again.other]] : []"
        >
          <RowBars
            :rows="[
              { name: 'had been answered', value: report.again.answered, words: String(report.again.answered) },
              { name: 'had given up', value: report.again.abandoned, words: String(report.again.abandoned) },
              { name: 'had gone elsewhere', value: report.again.other, words: String(report.again.other) },
            ]"
            shade="other"
          />
        </ChartFigure>
        <ChartFigure
          title="Parkings"
          :words="parkingsInWords(report)"
          :columns="['Slot', 'Parked', 'Mean wait', 'Longest', 'Taken', 'Gave up']"
          :rows="report.parkings.map(({ slot, stays, waited, longest, taken, gaveUp }) => [nameOf(slot), stays, spell(waited / stays), spell(longest), taken, gaveUp])"
          :file="fileOf('parkings')"
        >
          <RowBars
            :rows="report.parkings.map(({ slot, stays }) => ({ name: nameOf(slot), value: stays, words: String(stays) }))"
            shade="other"
          />
        </ChartFigure>
        <ChartFigure
          title="Colleagues on calls"
          :words="`${others.length} colleagues who are no operators answered or made calls.`"
          :columns="['Who', 'Calls', 'On calls', 'Callers on hold']"
          :rows="others.map(({ id, calls, talked, held }) => [nameOf(id), calls, spell(talked), spell(held)])"
          :file="fileOf('operators')"
        >
          <RowBars
            :rows="others.slice(0, 8).map(({ id, calls, talked }) => ({ name: nameOf(id), value: calls, words: `${calls}, ${spell(talked)}` }))"
            shade="talk"
          />
        </ChartFigure>
      </div>
    </template>
    <p
      v-else-if="!failure"
      class="empty"
    >
      The figures are being counted.
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

.charts {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: var(--space-4);
}

.printed {
  display: none;
}

@media (max-width: 60rem) {
  .charts {
    grid-template-columns: minmax(0, 1fr);
  }

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
