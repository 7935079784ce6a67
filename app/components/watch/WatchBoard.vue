<script setup lang="ts">
import type { CallId } from '~~/core/calls/model'
import { channelsFree, channelsUsed } from '~~/core/calls/questions'
import { freeMembers } from '~~/core/calls/indexes'
import { heatOf } from '~~/core/console/lateness'
import { conferencesNow } from '~~/core/console/watch'
import { spell } from '~~/core/durations/durations'
import { isDeserted, type QueueBoard } from '~~/core/queues/board'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'

/** Everything at once: who waits and how late, who has whom, queues, conferences, groups, trunks. */
/** A call is to be seen from near, with what can be done. */
const emit = defineEmits<{ choose: [CallId] }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const queues = useQueues()

const state = computed(() => live.state!)
const servesWords = ({ free, busy, away }: QueueBoard['serving']) => t('watch.freeTalkingAway', { free, busy, away })
const boards = computed(() => queues.boards.map((board) => {
  const used = queues.usedOf(board)
  return {
    id: board.id, name: board.name, used, heat: heatOf(used), level: queues.levelOf(board.id),
    waits: board.since === null ? t('watch.nobodyWaits') : t('watch.countWaitingTime', { count: board.waiting.length, time: spell(desk.now - board.since) }),
    serves: !board.open ? t('watch.closed') : isDeserted(board) ? t('watch.nobodyThere') : servesWords(board.serving),
    alarm: !board.open || isDeserted(board) || used > 1,
  }
}))
const paused = computed(() => queues.boards.flatMap(({ id: queue, name }) => (live.company?.groups[queue]?.members ?? []).flatMap((id) => {
  const absence = state.value.devices.get(id)?.absences?.[queue]
  return absence?.state === 'paused' ? [{ key: `${queue} ${id}`, name: directory.nameOf(id), queue: name, words: absenceWords(absence, desk.now) }] : []
})))
const ringing = computed(() => Object.values(live.company?.groups ?? {}).filter(({ distribution }) => distribution !== 'queue'))
const groups = computed(() => ringing.value.map(group => ({
  id: group.id, name: group.name, free: freeMembers(state.value, group).length, members: group.members.length,
})))
const conferences = computed(() => conferencesNow(state.value).map(({ call, since, members }) => ({
  id: call.id, time: spell(desk.now - since), who: members.map(({ device, party }) => directory.nameOf(device, party)).join(', '),
})))
const trunks = computed(() => Object.values(live.company?.trunks ?? {}).map(({ id, name, channels }) => {
  const trouble = state.value.troubles.get(id)
  return {
    id, name, words: t('watch.ofInUse', { channelsUsed: channelsUsed(state.value, id), channels }),
    alarm: trouble?.outBy
      ? t('watch.outOfService')
      : trouble?.faulty
        ? t('watch.outOfOrder', { faulty: trouble.faulty })
        : channelsFree(state.value, id) === 0 ? t('watch.allInUse') : '',
  }
}))
</script>

<template>
  <div
    class="board"
    tabindex="0"
    role="group"
    :aria-label="t('watch.everythingAtOnce')"
  >
    <div class="side">
      <section aria-labelledby="watch-queues">
        <h2 id="watch-queues">
          {{ t('watch.queues') }}
        </h2>
        <ul>
          <li
            v-for="one in boards"
            :key="one.id"
            class="queue"
          >
            <RibbonTime
              v-if="one.used > 0"
              :used="one.used"
              :heat="one.heat"
            />
            <button
              type="button"
              class="choose"
              :aria-pressed="queues.opened?.id === one.id"
              @click="queues.open(queues.opened?.id === one.id ? null : one.id)"
            >
              {{ one.name }}
            </button>
            <span>{{ one.waits }},</span>
            <span :class="{ alarm: one.alarm }">{{ one.serves }}</span>
            <span v-if="one.level">{{ t('watch.todayLevel', { level: one.level }) }}</span>
          </li>
        </ul>
      </section>
      <WatchWaiting @choose="emit('choose', $event)" />
    </div>
    <div class="side">
      <WatchOperators @choose="emit('choose', $event)" />
      <section aria-labelledby="watch-trunks">
        <h2 id="watch-trunks">
          {{ t('watch.trunksAndConferences') }}
        </h2>
        <ul>
          <li
            v-for="one in trunks"
            :key="one.id"
          >
            <strong>{{ t('watch.trunkName', { name: one.name }) }}</strong>
            <span>{{ one.words }}</span>
            <span class="alarm">{{ one.alarm }}</span>
          </li>
          <li
            v-for="one in conferences"
            :key="one.id"
          >
            <strong>{{ t('watch.conference') }}</strong>
            <span>{{ one.who }}</span>
            <span class="time">{{ one.time }}</span>
          </li>
          <li v-if="conferences.length === 0">
            <span class="soft">{{ t('watch.noConference') }}</span>
          </li>
        </ul>
      </section>
      <section
        v-if="paused.length"
        aria-labelledby="watch-paused"
      >
        <h2 id="watch-paused">
          {{ t('watch.serveNoQueueForThe') }}
        </h2>
        <ul>
          <li
            v-for="one in paused"
            :key="one.key"
          >
            <strong>{{ one.name }}</strong>
            <span>{{ one.queue }}, {{ one.words }}</span>
          </li>
        </ul>
      </section>
      <section aria-labelledby="watch-groups">
        <h2 id="watch-groups">
          {{ t('watch.freeByGroup') }}
        </h2>
        <ul class="groups">
          <li
            v-for="one in groups"
            :key="one.id"
          >
            <strong>{{ one.name }}</strong>
            <span :class="{ alarm: one.free === 0 }">{{ t('watch.freeOfMembers', { free: one.free, members: one.members }) }}</span>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>
