<script setup lang="ts">
import { channelsFree, channelsUsed } from '~~/core/calls/questions'
import { freeMembers } from '~~/core/calls/targets'
import { heatOf } from '~~/core/console/lateness'
import { conferencesNow, operatorsNow, type WaitingCall, whoWaits } from '~~/core/console/watch'
import { spell } from '~~/core/durations/durations'
import { isDeserted, type QueueBoard } from '~~/core/queues/board'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'

/** Everything at once: who waits and how late, who has whom, queues, conferences, groups, trunks. On a wall nothing is to be pressed. */
const props = defineProps<{ wall?: boolean }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const queues = useQueues()
const { short } = usePresenceWords()
const most = 12

const state = computed(() => live.state!)
const callerOf = (call: WaitingCall['call']) => directory.nameOf(call.calling, call.party)
const howWords = { waits: 'waits for', rings: 'rings at', parked: 'in', onHold: 'on hold with' } as const
const ownWords = { connected: 'with', held: 'on hold', alerting: 'rings', queued: 'waits' } as const
const all = computed(() => whoWaits(state.value, desk.now))
const waiting = computed(() => all.value.slice(0, most).map(({ call, at, how, since, used }) => ({
  id: call.id, used, heat: heatOf(used), time: spell(desk.now - since), caller: callerOf(call), where: `${howWords[how]} ${directory.nameOf(at)}`,
  line: directory.lineName(call), late: used > 1,
})))
const late = computed(() => all.value.filter(({ used }) => used > 1).length)

const operators = computed(() => operatorsNow(state.value).map(({ id, attended, calls }) => {
  const presence = live.presences.get(id)
  return {
    id, attended, name: directory.nameOf(id), state: attended ? presence ? short(presence, desk.now).what : 'there' : 'not there',
    calls: calls.map(({ call, own, other }) => ({
      id: call.id,
      words: `${ownWords[own.state]} ${other ? directory.nameOf(other.device, other.party) : 'nobody'}`,
      time: spell(desk.now - own.since),
    })),
  }
}))

const servesWords = ({ free, busy, away }: QueueBoard['serving']) => `${free} free, ${busy} talking, ${away} away`
const boards = computed(() => queues.boards.map((board) => {
  const used = queues.usedOf(board)
  return {
    id: board.id, name: board.name, used, heat: heatOf(used), level: queues.levelOf(board.id),
    waits: board.since === null ? 'nobody waits' : `${board.waiting.length} waiting, ${spell(desk.now - board.since)}`,
    serves: !board.open ? 'closed' : isDeserted(board) ? 'nobody there' : servesWords(board.serving),
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
const trunks = computed(() => Object.values(live.company?.trunks ?? {}).map(({ id, channels }) => {
  const trouble = state.value.troubles.get(id)
  return {
    id, words: `${channelsUsed(state.value, id)} of ${channels} in use`,
    alarm: trouble?.outBy ? 'out of service' : trouble?.faulty ? `${trouble.faulty} out of order` : channelsFree(state.value, id) === 0 ? 'all in use' : '',
  }
}))
</script>

<template>
  <div
    :class="['board', { wall }]"
    tabindex="0"
    role="group"
    aria-label="Everything at once"
  >
    <div class="side">
      <section aria-labelledby="watch-queues">
        <h2 id="watch-queues">
          Queues
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
              v-if="!props.wall"
              type="button"
              :aria-pressed="queues.opened?.id === one.id"
              @click="queues.open(queues.opened?.id === one.id ? null : one.id)"
            >
              {{ one.name }}
            </button>
            <strong v-else>{{ one.name }}</strong>
            <span>{{ one.waits }},</span>
            <span :class="{ alarm: one.alarm }">{{ one.serves }}</span>
            <span v-if="one.level">today {{ one.level }}</span>
          </li>
        </ul>
      </section>
      <section aria-labelledby="watch-waiting">
        <h2 id="watch-waiting">
          Who waits <strong>{{ all.length }}</strong>
          <span
            v-if="late"
            class="alarm"
          > {{ late }} past the promise</span>
        </h2>
        <ol>
          <li
            v-for="one in waiting"
            :key="one.id"
            class="waiting"
          >
            <RibbonTime
              :used="one.used"
              :heat="one.heat"
            />
            <span class="time">{{ one.time }}</span>
            <strong>{{ one.caller }}</strong>
            <span>{{ one.line }}, {{ one.where }}</span>
          </li>
        </ol>
        <p
          v-if="all.length === 0"
          class="soft"
        >
          Nobody waits.
        </p>
        <p v-else-if="all.length > most">
          and {{ all.length - most }} more
        </p>
      </section>
    </div>
    <div class="side">
      <section aria-labelledby="watch-operators">
        <h2 id="watch-operators">
          Operators
        </h2>
        <ul>
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
            >{{ call.words }} <span class="time">{{ call.time }}</span></span>
          </li>
        </ul>
      </section>
      <section aria-labelledby="watch-trunks">
        <h2 id="watch-trunks">
          Trunks and conferences
        </h2>
        <ul>
          <li
            v-for="one in trunks"
            :key="one.id"
          >
            <strong>Trunk {{ one.id }}</strong>
            <span>{{ one.words }}</span>
            <span class="alarm">{{ one.alarm }}</span>
          </li>
          <li
            v-for="one in conferences"
            :key="one.id"
          >
            <strong>Conference</strong>
            <span>{{ one.who }}</span>
            <span class="time">{{ one.time }}</span>
          </li>
          <li v-if="conferences.length === 0">
            <span class="soft">No conference.</span>
          </li>
        </ul>
      </section>
      <section
        v-if="paused.length"
        aria-labelledby="watch-paused"
      >
        <h2 id="watch-paused">
          Serve no queue for the time being
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
          Free, by group
        </h2>
        <ul class="groups">
          <li
            v-for="one in groups"
            :key="one.id"
          >
            <strong>{{ one.name }}</strong>
            <span :class="{ alarm: one.free === 0 }">{{ one.free }} of {{ one.members }}</span>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  flex: 1;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: var(--space-4);
  align-content: start;
  min-width: 0;
  overflow: auto;
}

.side {
  display: grid;
  gap: var(--space-4);
  align-content: start;
}

.groups {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(12rem, 1fr));
}

section {
  padding: var(--space-3) var(--space-4);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round);
}

h2 {
  padding-bottom: var(--space-2);
  font: 700 var(--type-4) var(--font-sign);
}

li {
  position: relative;
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
  padding: var(--space-1) var(--space-3);
  border-bottom: 1px solid var(--edge);
}

li > :not(svg) {
  position: relative;
}

.time {
  font-variant-numeric: tabular-nums;
}

.waiting .time {
  min-width: 3.5em;
  font-weight: 700;
}

.call {
  flex-basis: 100%;
  padding-left: var(--space-5);
}

.soft {
  color: var(--ink-soft);
}

.alarm {
  color: var(--alarm);
  font-weight: 700;
}

.queue button {
  padding: 0;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
  cursor: pointer;
}

.wall {
  gap: var(--space-5);
  padding: var(--space-5);
  font-size: var(--type-wall);
  line-height: 1.3;
}

.wall h2 {
  font-size: var(--type-wall);
}

.wall .groups {
  grid-template-columns: repeat(2, minmax(0, 1fr));
}

@media (max-width: 60rem) {
  .board {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
