<script setup lang="ts">
import type { CallId } from '~~/core/calls/model'
import { type AtDesk, operatorsNow } from '~~/core/console/watch'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Every operator, and whom they have; while a hand is on the list, it stays as it is, and what is over says so. */
defineEmits<{ choose: [CallId] }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const { short } = usePresenceWords()
const ownWords = { connected: t('watch.with'), held: t('common.onHold'), alerting: t('watch.rings'), queued: t('watch.waits') } as const

const now = computed(() => operatorsNow(live.state!))
const resting = useHandOn(useTemplateRef<HTMLElement>('list'))
const kept = shallowRef<AtDesk[]>([])
watch([now, resting], ([operators, still]) => {
  if (!still) kept.value = operators
}, { immediate: true })

const operators = computed(() => kept.value.map(({ id, calls }) => {
  const presence = live.presences.get(id)
  const { attended, calls: theirs } = now.value.find(one => one.id === id) ?? { attended: false, calls: [] }
  return {
    id, attended, name: directory.nameOf(id), state: attended ? presence ? short(presence, desk.now).what : t('watch.there') : t('watch.notThere'),
    calls: calls.map(({ call }) => {
      const still = theirs.find(one => one.call.id === call.id)
      return {
        id: call.id, over: !still, who: still?.other ? directory.nameOf(still.other.device, still.other.party) : still ? t('watch.nobody') : '',
        how: still ? ownWords[still.own.state] : t('watch.hasItNoMore'), time: still ? spell(desk.now - still.own.since) : '',
      }
    }),
  }
}))
</script>

<template>
  <section aria-labelledby="watch-operators">
    <h2 id="watch-operators">
      {{ t('watch.operators') }}
    </h2>
    <ul ref="list">
      <li
        v-for="one in operators"
        :key="one.id"
        :class="{ soft: !one.attended }"
      >
        <strong>{{ one.name }}</strong>
        <span>{{ one.state }}</span>
        <span
          v-for="call in one.calls"
          :key="call.id"
          class="call"
        >
          {{ call.how }}
          <button
            v-if="!call.over"
            type="button"
            class="choose"
            @click="$emit('choose', call.id)"
          >{{ call.who }}</button>
          <template v-else>{{ call.who }}</template>
          <span class="time">{{ ` ${call.time}` }}</span>
        </span>
      </li>
    </ul>
  </section>
</template>
