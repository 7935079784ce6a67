<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { channelsFree } from '~~/core/calls/questions'
import { heatOf } from '~~/core/console/lateness'
import { operatorsNow, whoWaits } from '~~/core/console/watch'
import { spell } from '~~/core/durations/durations'
import { serviceLevel } from '~~/core/figures/service-level'
import { isDeserted } from '~~/core/queues/board'
import type { Figures } from '~~/shared/figures'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'

/** What matters at a glance, read from five metres: who waits longest, how many, how the day goes, who is there. Nothing is to be pressed. */
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const queues = useQueues()
const { short } = usePresenceWords()
const state = computed(() => live.state!)

const waiting = computed(() => whoWaits(state.value, desk.now))
const late = computed(() => waiting.value.filter(({ used }) => used > 1).length)
const longest = computed(() => {
  const [first] = [...waiting.value].sort((a, b) => a.since - b.since)
  return first && {
    time: spell(desk.now - first.since), used: first.used, heat: heatOf(first.used), where: directory.nameOf(first.at),
    who: directory.nameOf(first.call.calling, first.call.party), line: directory.lineName(first.call), promise: spell(first.promise),
  }
})

/** The day so far, and the same weekday of last week. */
const today = useToday()
const report = shallowRef<Figures | null>(null)
const before = shallowRef<Figures | null>(null)
const failure = ref<string | null>(null)
async function load(): Promise<void> {
  const ask = (weeks: number) => {
    const day = today.value.subtract(7 * weeks, 'day').format('YYYY-MM-DD')
    return $fetch<Figures>('/api/figures', { query: { from: day, to: day } })
  }
  try {
    [report.value, before.value] = await Promise.all([ask(0), ask(1)])
    failure.value = null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}
onMounted(load)
useIntervalFn(load, 60_000)
const rule = useLevelRule()
const level = computed(() => report.value && serviceLevel(report.value.total, rule.value))
const course = computed(() => {
  const { value } = report
  if (!value) return null
  const chart = chartsOf({ report: value, before: before.value, rule: rule.value, company: live.company ?? null, ofQueue: false })[0]!
  return chart.kind === 'bars' && chart.labels.length > 0 ? chart : null
})

const operators = computed(() => operatorsNow(state.value).map(({ id, attended, calls }) => {
  const presence = live.presences.get(id)
  const what = attended ? presence ? short(presence, desk.now).what : t('watch.there') : t('watch.notThere')
  return { id, attended, free: attended && calls.length === 0, name: directory.nameOf(id), what }
}))
const there = computed(() => operators.value.filter(({ attended }) => attended))
const rows = computed(() => queues.boards.map((board) => {
  const { id, name, open, serving, since } = board
  const used = queues.usedOf(board)
  return {
    id, name, used, heat: heatOf(used), waiting: board.waiting.length || '–', time: since === null ? '–' : spell(desk.now - since),
    there: !open ? t('watch.closed') : isDeserted(board) ? t('watch.nobody') : String(serving.free), alarm: open && isDeserted(board),
    level: queues.levelOf(id) ?? '–',
  }
}))
const troubles = computed(() => Object.values(live.company?.trunks ?? {}).flatMap(({ id, name }) => {
  const trouble = state.value.troubles.get(id)
  const full = channelsFree(state.value, id) === 0 ? t('watch.allInUse') : null
  const what = trouble?.outBy ? t('watch.outOfService') : trouble?.faulty ? t('watch.channelsOutOfOrder', { faulty: trouble.faulty }) : full
  return what === null ? [] : [{ id, words: t('watch.trunkNameWhat', { name, what }) }]
}))
</script>

<template>
  <div class="on-a-wall">
    <section
      :class="['figure', 'longest']"
      aria-labelledby="wall-longest"
    >
      <RibbonTime
        v-if="longest && longest.used > 0"
        :used="longest.used"
        :heat="longest.heat"
      />
      <h2 id="wall-longest">
        {{ t('watch.waitsLongest') }}
      </h2>
      <p class="large">
        {{ longest?.time ?? '–' }}
      </p>
      <p class="of">
        <template v-if="longest">
          <strong>{{ longest.who }}</strong> {{ t('watch.atPromised', { where: longest.where, line: longest.line, promise: longest.promise }) }}
        </template>
        <template v-else>
          {{ t('watch.nobodyWaitsSentence') }}
        </template>
      </p>
    </section>
    <section
      class="figure"
      aria-labelledby="wall-waiting"
    >
      <h2 id="wall-waiting">
        {{ t('watch.waiting') }}
      </h2>
      <p class="large">
        {{ waiting.length }}
      </p>
      <p :class="['of', { alarm: late }]">
        {{ late ? t('watch.latePastThePromise', { late }) : t('watch.allWithinThePromise') }}
      </p>
    </section>
    <section
      class="figure"
      aria-labelledby="wall-level"
    >
      <h2 id="wall-level">
        {{ t('watch.inTimeToday') }}
      </h2>
      <p class="large">
        {{ level === null ? '–' : Math.round(100 * level) }}<small v-if="level !== null">%</small>
      </p>
      <p class="of">
        {{ report ? t('watch.ofAnsweredGaveUp', {
          answered: report.total.answered, offered: report.total.offered, abandoned: report.total.abandoned,
        }) : t('watch.notCountedYet') }}
      </p>
    </section>
    <section
      class="figure"
      aria-labelledby="wall-there"
    >
      <h2 id="wall-there">
        {{ t('watch.operatorsFree') }}
      </h2>
      <p :class="['large', { alarm: there.length === 0 }]">
        {{ there.filter(({ free }) => free).length }}<small>{{ t('watch.ofCount', { count: there.length }) }}</small>
      </p>
      <ul class="of people">
        <li
          v-for="one in operators"
          :key="one.id"
          :class="{ soft: !one.attended }"
        >
          <strong>{{ one.name }}</strong> {{ one.what }}
        </li>
      </ul>
    </section>
    <section
      class="course"
      aria-labelledby="wall-course"
    >
      <h2 id="wall-course">
        {{ t('watch.theDaySoFar') }}
      </h2>
      <p class="of">
        {{ report?.total.offered ? course?.words : t('watch.nobodyHasCalledYetToday') }}
      </p>
      <template v-if="course">
        <StackedBars
          :labels="course.labels"
          :series="course.series"
          :earlier="course.earlier"
          :every="course.every"
          high
        />
        <ul
          class="legend"
          aria-hidden="true"
        >
          <li
            v-for="one in course.legend ?? []"
            :key="one.shade"
          >
            <i :class="`shade-${one.shade}`" />{{ one.name }}
          </li>
          <li v-if="course.earlier">
            <i class="earlier" />{{ t('watch.aWeekAgo') }}
          </li>
        </ul>
      </template>
      <FailureNote :text="failure" />
    </section>
    <section
      class="queues"
      aria-labelledby="wall-queues"
    >
      <h2 id="wall-queues">
        {{ t('watch.queues') }}
      </h2>
      <table>
        <thead>
          <tr>
            <th scope="col">
              <span class="unseen">{{ t('common.queue') }}</span>
            </th>
            <th scope="col">
              {{ t('watch.waiting') }}
            </th>
            <th scope="col">
              {{ t('watch.longest') }}
            </th>
            <th scope="col">
              {{ t('watch.free') }}
            </th>
            <th scope="col">
              {{ t('common.today') }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="one in rows"
            :key="one.id"
            :class="`heat-${one.used > 0 ? one.heat : 'none'}`"
          >
            <th scope="row">
              {{ one.name }}
            </th>
            <td>{{ one.waiting }}</td>
            <td class="time">
              {{ one.time }}
            </td>
            <td :class="{ alarm: one.alarm }">
              {{ one.there }}
            </td>
            <td>{{ one.level }}</td>
          </tr>
        </tbody>
      </table>
      <p
        v-for="one in troubles"
        :key="one.id"
        class="alarm"
      >
        {{ one.words }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.on-a-wall {
  display: grid;
  flex: 1;
  grid-template: auto minmax(0, 1fr) / repeat(6, minmax(0, 1fr));
  gap: var(--space-5);
  padding: var(--space-5);
  overflow: auto;
  font-size: var(--type-wall);
  font-variant-numeric: tabular-nums;
  line-height: 1.3;
}

section {
  position: relative;
  padding: var(--space-4) var(--space-5);
  overflow: hidden;
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round);
}

section > :not(svg) {
  position: relative;
}

.longest {
  grid-column: span 2;
}

.figure:nth-of-type(4) {
  grid-column: span 2;
}

.course,
.queues {
  grid-column: span 3;
  overflow: auto;
}

h2 {
  color: var(--ink-soft);
  font: 600 var(--type-wall) var(--font-sign);
}

.large {
  min-height: 1.05em;
  white-space: nowrap;
  font: 700 var(--type-wall-figure)/1.05 var(--font-sign);
}

.large small {
  padding-left: 0.3em;
  color: var(--ink-soft);
  font-size: var(--type-wall-name);
}

.course {
  display: flex;
  flex-direction: column;
}

.course :deep(.chart) {
  flex: 1;
  min-height: 8rem;
}

.of {
  min-height: 2.6em;
  overflow-wrap: anywhere;
}

.people {
  display: grid;
  gap: 0 var(--space-5);
  grid-template-columns: repeat(auto-fill, minmax(12em, 1fr));
}

.soft {
  color: var(--ink-soft);
}

.alarm {
  color: var(--alarm);
  font-weight: 700;
}

table {
  width: 100%;
  height: calc(100% - 3em);
  border-collapse: collapse;
  font-size: var(--type-wall-name);
}

th,
td {
  padding: var(--space-1) var(--space-3);
  border-bottom: 1px solid var(--edge);
  text-align: right;
}

th:first-child {
  text-align: left;
}

.heat-warm .time {
  background: var(--time-warm);
}

.heat-late .time {
  background: var(--time-late);
  color: var(--on-late);
  font-weight: 700;
}

thead th {
  color: var(--ink-soft);
  font-weight: 400;
  font-size: var(--type-wall);
}

.legend {
  padding-top: var(--space-3);
  font-size: var(--type-wall);
}

@media (max-width: 60rem) {
  .on-a-wall {
    grid-template: none / minmax(0, 1fr);
  }

  .on-a-wall > * {
    grid-column: 1;
  }
}
</style>
