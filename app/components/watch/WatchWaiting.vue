<script setup lang="ts">
import type { CallId } from '~~/core/calls/model'
import { heatOf } from '~~/core/console/lateness'
import { type Place, settle } from '~~/core/console/stillness'
import { type WaitingCall, whoWaits } from '~~/core/console/watch'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Who waits where and how late, the latest first; under a hand nobody moves. */
defineEmits<{ choose: [CallId] }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const most = 12
const howWords = { waits: t('watch.waitsFor'), rings: t('watch.ringsAt'), parked: t('watch.in'), onHold: t('watch.onHoldWith') } as const

const all = computed(() => whoWaits(live.state!, desk.now))
const late = computed(() => all.value.filter(({ used }) => used > 1).length)
const resting = useHandOn(useTemplateRef<HTMLElement>('list'))
const places = shallowRef<Place<WaitingCall>[]>([])
watch([all, resting], ([now, still]) => {
  places.value = settle(places.value, now, ({ call }) => call.id, still).slice(0, most)
}, { immediate: true })
const rows = computed(() => places.value.map(({ id, item }) => item && {
  id, used: item.used, heat: heatOf(item.used), time: spell(desk.now - item.since), caller: directory.nameOf(item.call.calling, item.call.party),
  where: `${directory.lineName(item.call)}, ${howWords[item.how]} ${directory.nameOf(item.at)}`,
}))
</script>

<template>
  <section aria-labelledby="watch-waiting">
    <h2 id="watch-waiting">
      {{ t('watch.whoWaits') }} <strong>{{ all.length }}</strong><span
        v-if="late"
        class="alarm"
      >{{ t('watch.pastThePromise', { late }) }}</span>
    </h2>
    <ol ref="list">
      <li
        v-for="(one, index) in rows"
        :key="one?.id ?? `gone ${index}`"
        class="waiting"
      >
        <template v-if="one">
          <RibbonTime
            :used="one.used"
            :heat="one.heat"
          />
          <span class="time">{{ one.time }}</span>
          <button
            type="button"
            class="choose"
            @click="$emit('choose', one.id)"
          >
            {{ one.caller }}
          </button>
          <span>{{ one.where }}</span>
        </template>
        <span
          v-else
          class="soft"
        >{{ t('watch.waitsNoMore') }}</span>
      </li>
    </ol>
    <p
      v-if="all.length === 0"
      class="soft"
    >
      {{ t('watch.nobodyWaitsSentence') }}
    </p>
    <p v-else-if="all.length > most">
      {{ t('watch.andMore', { n: all.length - most }) }}
    </p>
  </section>
</template>
