<script setup lang="ts">
import { dayOf, localTime } from '~~/core/calendar/zones'
import type { Engagement } from '~~/shared/whereabouts'
import { useLive } from '~/stores/live'
import { useWhereabouts } from '~/stores/whereabouts'

/** The day of the house from one end to the other: what the calendar takes is dark, and now is marked. Below it the same in words, and tomorrow. */
const props = defineProps<{ engagements: Engagement[] }>()
const live = useLive()
const whereabouts = useWhereabouts()
const [width, height, hourHeight] = [240, 18, 12]

const zone = computed(() => live.company?.settings.zone ?? 'UTC')
const today = computed(() => dayOf(zone.value, whereabouts.now))
const at = (time: number) => {
  const { begins, ends } = today.value
  return Math.min(1, Math.max(0, (time - begins) / (ends - begins))) * width
}
const taken = computed(() => props.engagements.filter(({ from, to }) => from < today.value.ends && to > today.value.begins)
  .map(({ from, to }) => ({ x: at(from), width: Math.max(2, at(to) - at(from)), key: `${from} ${to}` })))
const hours = [6, 9, 12, 15, 18, 21]

function words({ from, to, allDay, place }: Engagement): string {
  const when = allDay
    ? t('panel.allDay', { more: to > today.value.ends ? t('panel.untilAt', { at: shownAt(to).format('D MMM') }) : '' })
    : t('panel.hourToHour2', { hour: hour(from), hour2: hour(to) })
  return `${when}${place ? `, ${place}` : ''}`
}
const hour = (time: number) => new Date(localTime(zone.value, time)).toISOString().slice(11, 16).replace(/^0/, '')
const days = computed(() => [
  { name: t('common.today'), all: props.engagements.filter(({ from, to }) => from < today.value.ends && to > today.value.begins) },
  { name: t('panel.tomorrow'), all: props.engagements.filter(({ to }) => to > today.value.ends) },
].filter(({ all }) => all.length > 0))
</script>

<template>
  <div>
    <svg
      :viewBox="`0 0 ${width} ${height + hourHeight}`"
      aria-hidden="true"
    >
      <rect
        class="day"
        :width="width"
        :height="height"
      />
      <rect
        v-for="span in taken"
        :key="span.key"
        class="taken"
        :x="span.x"
        :width="span.width"
        :height="height"
      />
      <line
        class="now"
        :x1="at(whereabouts.now)"
        :x2="at(whereabouts.now)"
        y1="0"
        :y2="height"
      />
      <text
        v-for="one in hours"
        :key="one"
        :x="one / 24 * width"
        :y="height + hourHeight - 1"
        text-anchor="middle"
      >{{ one }}</text>
    </svg>
    <template
      v-for="day in days"
      :key="day.name"
    >
      <h4>{{ day.name }}</h4>
      <ul :aria-label="t('panel.calendarName', { name: day.name.toLowerCase() })">
        <li
          v-for="one in day.all"
          :key="`${one.from} ${one.to}`"
        >
          {{ words(one) }}
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}

.day {
  fill: var(--lit);
}

.taken {
  fill: var(--unlit);
}

.now {
  stroke: var(--call);
  stroke-width: 2;
}

text {
  fill: var(--ink-soft);
  font: 9px var(--font-text);
}

h4 {
  margin: 0;
  padding-top: var(--space-2);
  color: var(--ink-soft);
  font: 600 var(--type-2) var(--font-text);
}
</style>
