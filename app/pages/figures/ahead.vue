<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { spell } from '~~/core/durations/durations'
import { share } from '~~/core/figures/words'
import { type Demand, serversFor, serviceOf } from '~~/core/queues/erlang'
import type { Ahead } from '~~/shared/figures'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'

useHead({ title: t('figures.lookAheadEstafette') })

/** What the coming hours bring to a queue, how many people they need, and what becomes of callers with more or fewer of them. */
const live = useLive()
const boards = useQueues()
const queue = ref('')
const level = ref(80)
const answer = ref<Ahead | null>(null)
const failure = ref<string | null>(null)
/** How many serve, as it is asked; null: as many as are there. */
const asked = ref<number | null>(null)

const queues = computed(() => Object.values(live.company?.groups ?? {}).filter(({ distribution }) => distribution === 'queue'))
watch(queues, (all) => {
  if (!all.some(({ id }) => id === queue.value)) queue.value = all[0]?.id ?? ''
}, { immediate: true })

async function load(): Promise<void> {
  if (!queue.value) return
  const mine = queue.value
  try {
    const now = await $fetch<Ahead>('/api/figures/ahead', { query: { queue: mine } })
    if (mine !== queue.value) return
    answer.value = now
    failure.value = null
  }
  catch (error) {
    if (mine === queue.value) failure.value = sentenceOf(error)
  }
}
watch(queue, () => {
  asked.value = null
  // What was known of another queue says nothing about this one.
  answer.value = null
  void load()
}, { immediate: true })
/** The forecast follows the day: with every half-hour that is over. */
useIntervalFn(load, 10 * 60_000)

const serving = computed(() => {
  const board = boards.boards.find(({ id }) => id === queue.value)
  if (board) return board.serving.free + board.serving.busy
  return [...live.state?.agents ?? []].filter(([, { attended }]) => attended).length
})
const people = computed({ get: () => asked.value ?? serving.value, set: (now: number) => { asked.value = now } })
const most = computed(() => Math.max(8, 2 * serving.value, ...hours.value.map(one => (one.people ?? 0) + 2)))

/** Without any call that has ended nobody knows how long they last: three minutes, and it is said. */
const unknownLength = 180_000
const demandOf = (calls: number): Demand => ({ calls: 2 * calls, length: answer.value?.length ?? unknownLength, patience: answer.value?.patience ?? null })
const hours = computed(() => (answer.value?.halfHours ?? []).map(one => ({
  ...one,
  people: serversFor(demandOf(one.mean), answer.value!.promise, level.value / 100),
  peopleHigh: serversFor(demandOf(one.high), answer.value!.promise, level.value / 100),
})))
/** The half-hours in which anybody is expected: the night is left out. */
const shown = computed(() => hours.value.filter(one => one.mean > 0.05))
/** By the clock of the house, wherever somebody looks from. */
const clockOfHouse = computed(() => new Intl.DateTimeFormat('en-GB', { timeZone: live.company?.settings.zone, hour: 'numeric', minute: '2-digit' }))
const clock = (at: number) => clockOfHouse.value.format(at)
const dayOfHouse = computed(() => new Intl.DateTimeFormat('en-GB', { timeZone: live.company?.settings.zone, weekday: 'short' }))
/** The first half-hour of a day says which day it is. */
const when = (one: { from: number }, at: number) => {
  const before = shown.value[at - 1]
  const isNew = before !== undefined && dayOfHouse.value.format(before.from) !== dayOfHouse.value.format(one.from)
  return isNew ? `${dayOfHouse.value.format(one.from)} ${clock(one.from)}` : clock(one.from)
}
const outcomes = computed(() => shown.value.map((one) => {
  const service = serviceOf(demandOf(one.mean), people.value)
  return { ...one, service, within: service.within(answer.value!.promise) }
}))
const next = computed(() => outcomes.value[0] ?? null)
const wait = (ms: number) => ms === Infinity ? t('figures.withoutEnd') : spell(ms)
const known = computed(() => {
  const { days = 0, sameWeekday = false, length, patience } = answer.value ?? {}
  const made = days === 0
    ? t('figures.nothingIsKnownOfEarlier')
    : sameWeekday
      ? t('figures.madeOfDaysOfThe', { days, more: days < 6 ? t('figures.whichIsNotMuch') : '' })
      : t('figures.madeOfOnlyDayOf', { count: days })
  const calls = length ? t('figures.aCallLastsOnAverage', { time: spell(length) }) : t('figures.noCallHasEndedYet')
  return `${made} ${calls}; ${patience ? t('figures.callersWaitOnAverageBefore', { time: spell(patience) }) : t('figures.nobodyHasGivenUp')}.`
})
const lookedBack = computed(() => {
  const back = answer.value?.back
  if (!back) return t('figures.thereIsTooLittleHistory')
  const { ours, lastWeek, fourWeeks, days } = back
  return [
    t('figures.lookingBackOnDaysIt', { days, ours: ours.toFixed(1) }),
    t('figures.theSameHalfHourOf', { lastWeek: lastWeek.toFixed(1), fourWeeks: fourWeeks.toFixed(1) }),
  ].join(' ')
})
const words = computed(() => {
  const worst = [...shown.value].sort((a, b) => (b.people ?? 0) - (a.people ?? 0))[0]
  if (!worst) return t('figures.nobodyIsExpectedInThe')
  const short = outcomes.value.filter(one => (one.people ?? 0) > people.value)
  const enough = short.length === 0
    ? t('figures.oneIsEnoughAllThe', { count: people.value })
    : t('figures.withTooFewFrom', {
        people: people.value, at: clock(short[0]!.from), more: short.length > 1 ? t('figures.inHalfHours', { count: short.length }) : '',
      })
  return t('figures.mostAreNeededFromFor', { at: clock(worst.from), people: worst.people!, mean: worst.mean.toFixed(1), enough })
})
</script>

<template>
  <div class="records-page figures-page">
    <div class="bar">
      <FiguresHead :title="t('figures.lookAhead')" />
      <el-select
        v-model="queue"
        class="choice"
        :aria-label="t('common.queue')"
      >
        <el-option
          v-for="one in queues"
          :key="one.id"
          :value="one.id"
          :label="one.name"
        />
      </el-select>
      <el-select
        v-model="level"
        class="choice"
        :aria-label="t('figures.serviceLevelWanted')"
      >
        <el-option
          v-for="one in [70, 80, 90, 95]"
          :key="one"
          :value="one"
          :label="t('figures.in100WithinThePromise', { one })"
        />
      </el-select>
    </div>
    <HistoryNotice @more="load" />
    <FailureNote :text="failure" />
    <template v-if="answer">
      <section
        class="what-if"
        :aria-label="t('figures.whatIf')"
      >
        <div class="slider">
          <p>{{ t('figures.peopleThere') }} <strong>{{ people }}</strong> <span class="soft">{{ t('figures.servingNow', { serving }) }}</span></p>
          <el-slider
            v-model="people"
            :min="0"
            :max="most"
            :show-tooltip="false"
            :aria-label="t('figures.peopleThere2')"
            :format-value-text="(value: number) => t('figures.itPeople', { it: value })"
          />
        </div>
        <dl
          v-if="next"
          aria-live="polite"
        >
          <div aria-atomic="true">
            <dt>{{ t('figures.fromAt', { at: clock(next.from) }) }}</dt><dd>{{ t('figures.meanCalls', { mean: next.mean.toFixed(1) }) }}</dd>
          </div>
          <div aria-atomic="true">
            <dt>{{ t('figures.withinTime', { time: spell(answer.promise) }) }}</dt><dd>{{ share(next.within) }}</dd>
          </div>
          <div aria-atomic="true">
            <dt>{{ t('figures.meanWaitInline') }}</dt><dd>{{ wait(next.service.meanWait) }}</dd>
          </div>
          <div aria-atomic="true">
            <dt>{{ t('figures.giveUp') }}</dt><dd>{{ share(next.service.abandons) }}</dd>
          </div>
          <div aria-atomic="true">
            <dt>{{ t('figures.onCallsInline') }}</dt><dd>{{ share(next.service.occupancy) }}</dd>
          </div>
        </dl>
      </section>
      <div class="charts">
        <ChartFigure
          :title="t('figures.callsToComeAndPeople')"
          :words="words"
          :columns="[
            t('common.from'), t('common.calls'), t('figures.mostly'), t('figures.peopleNeeded'), t('figures.ifManyCome'), t('figures.withinWith', {
              time: spell(answer.promise), people,
            }), t('figures.meanWait'), t('figures.giveUp2'), t('figures.onCalls'),
          ]"
          :rows="outcomes.map((one, at) => [
            when(one, at), one.mean.toFixed(1), t('figures.lowToHigh', {
              low: one.low, high: one.high,
            }), one.people ?? t('figures.tooMany'), one.peopleHigh ?? t('figures.tooMany'), share(one.within),
            wait(one.service.meanWait), share(one.service.abandons), share(one.service.occupancy),
          ])"
          open
          wide
        >
          <ul
            class="legend"
            aria-hidden="true"
          >
            <li><i class="shade-other" />{{ t('figures.callsExpectedAndBetweenWhat') }}</li>
            <li>{{ t('figures.abovePeopleNeededBoxedWhere') }}</li>
          </ul>
          <AheadChart
            :labels="shown.map(when)"
            :hours="shown"
            :there="people"
          />
        </ChartFigure>
        <section class="trust">
          <h2>{{ t('figures.howSureIsThis') }}</h2>
          <p>{{ known }}</p>
          <p>{{ lookedBack }}</p>
        </section>
      </div>
    </template>
    <p
      v-else-if="!failure"
      class="empty"
    >
      {{ t('figures.workingOutTheHoursTo') }}
    </p>
  </div>
</template>

<style scoped>
.choice {
  width: 16rem;
}

.what-if {
  display: grid;
  grid-template-columns: minmax(14rem, 1fr) 2fr;
  gap: var(--space-6);
  align-items: center;
  padding: var(--space-3) var(--space-5);
  margin-bottom: var(--space-4);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round);
}

.slider strong {
  font: 700 var(--type-5) var(--font-sign);
}

.what-if dl {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: var(--space-3);
}

.what-if dt {
  color: var(--ink-soft);
  font-size: var(--type-2);
}

.what-if dd {
  font: 700 var(--type-5) var(--font-sign);
}

.charts {
  display: grid;
  gap: var(--space-4);
}

.trust {
  display: grid;
  gap: var(--space-2);
  padding: var(--space-4) var(--space-5);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round);
}

.trust h2 {
  font: 700 var(--type-4) var(--font-sign);
}

@media (max-width: 60rem) {
  .what-if,
  .what-if dl {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
