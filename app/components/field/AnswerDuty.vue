<script setup lang="ts">
import { type OnDuty, telephoneOf } from '~~/core/calendar/duty'
import type { Duty } from '~~/core/company/company'
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Who is on duty now, in the order in which they are reached, and who is next; a gap in the roster is said. */
const props = defineProps<{ duty: Duty & OnDuty }>()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const words = usePresenceWords()

const until = computed(() => props.duty.until === null ? '' : t('field.untilMomentWords', { momentWords: momentWords(props.duty.until, live.wall(desk.now)) }))
const reached = computed(() => props.duty.people.map((id) => {
  const company = live.company!
  const [person, telephone] = [company.people[id], telephoneOf(company, id)]
  const presence = telephone && live.presences.get(telephone)
  const numbers = [telephone && directory.numberOf(telephone), person?.mobile && formatNumber(person.mobile)].filter(Boolean)
  return { id, name: directory.personName(id), numbers: numbers.join(', ') || t('common.noTelephone'), state: presence
    ? words.whole(presence, desk.now)
    : '', presence }
}))
const next = computed(() => {
  const { next } = props.duty
  return next
    ? t('field.xFromMomentWords', {
        x: [...next.people.map(directory.personName), ...next.unknown].join(', '), momentWords: momentWords(next.from, live.wall(desk.now)),
      })
    : ''
})
</script>

<template>
  <div>
    <p class="title">
      {{ duty.name }}
    </p>
    <p v-if="!reached.length">
      <strong>{{ t('field.nobodyIsOnDuty', { until }) }}</strong> {{ t('field.reachedInstead', { name: directory.destinationName(duty.instead) }) }}
    </p>
    <ol v-else>
      <li
        v-for="person in reached"
        :key="person.id"
      >
        <strong>{{ person.name }}</strong> {{ person.numbers }}
        <span
          v-if="person.presence"
          class="state"
        ><span aria-hidden="true">{{ shapeOf(person.presence) }}</span> {{ person.state }}</span>
      </li>
    </ol>
    <p
      v-if="reached.length && until"
      class="soft"
    >
      {{ t('field.onDuty', { until }) }}
    </p>
    <p
      v-if="duty.unknown.length"
      class="soft"
    >
      {{ t('field.theRosterAlsoNamesNobody', { unknown: duty.unknown.join(', ') }) }}
    </p>
    <p
      v-if="next"
      class="soft"
    >
      {{ t('field.nextNext', { next }) }}
    </p>
  </div>
</template>

<style scoped>
ol {
  margin: 0;
  padding-left: var(--space-5);
}

.state {
  display: block;
  font-weight: 600;
}
</style>
