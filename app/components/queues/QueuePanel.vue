<script setup lang="ts">
import { heatOf } from '~~/core/console/lateness'
import { isDeserted, placeOf, type QueueBoard } from '~~/core/queues/board'
import { expectedWait, tellPlace } from '~~/core/queues/expected-wait'
import { urgency } from '~~/core/calls/promises'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~~/core/numbers/dialled'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'
import { useWays } from '~/stores/ways'

/** One queue, live: who waits in it and what can be done for them, and who serves it. */
const props = defineProps<{ board: QueueBoard }>()
const queues = useQueues()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const field = useField()
const ways = useWays()
const { short } = usePresenceWords()

const calls = computed(() => props.board.waiting.map(({ call, since }) => {
  const used = urgency({ since, promise: props.board.promise || null }, desk.now)
  const said = call.caption?.device === call.calling ? call.caption.text : null
  return {
    id: call.id,
    name: directory.nameOf(call.calling, call.party),
    number: call.party?.name && call.party.number ? formatNumber(call.party.number) : '',
    waits: spell(desk.now - since),
    line: directory.line(call.line)?.name ?? '',
    by: call.passing ? `from ${directory.nameOf(call.passing.by)}` : '',
    refused: call.refusedBy.length,
    rings: call.connections.filter(({ offeredBy }) => offeredBy).map(({ device }) => directory.nameOf(device)),
    tries: call.hunting?.group === props.board.id ? call.hunting.tried.length : 0,
    told: call.told ? tellPlace(call.told) : '',
    said,
    used,
    heat: heatOf(used),
  }
}))
const order = { free: 0, busy: 1, paused: 2, away: 3 }
const members = computed(() => (live.state?.company.groups[props.board.id]?.members ?? []).map((id) => {
  const presence = live.presences.get(id)
  const words = presence ? short(presence, desk.now) : { what: '', time: '' }
  const absence = live.state?.devices.get(id)?.absences?.[props.board.id]
  return {
    id, absence, name: directory.nameOf(id), shape: presence ? shapeOf(presence) : '',
    place: placeOf(live.state!, props.board.id, id, presence),
    words: [absence && absenceWords(absence, desk.now), `${words.what} ${words.time}`.trim()].filter(Boolean).join(' · '),
  }
}).sort((a, b) => order[a.place] - order[b.place]))
const shownOnly = computed(() => queues.only?.id === props.board.id)

const dialogs = useDialogs()
const { wordsOf } = useOpeningWords()
const opening = computed(() => wordsOf(props.board.id))
function setOpening(open: boolean | null): void {
  if (open === false) dialogs.closing = props.board.id
  else void desk.ask({ service: 'setOpening', of: props.board.id, open, until: null })
}

/** How the queue works: whom it rings, and how long somebody waits who joins it now. */
const manner = computed(() => {
  const group = live.state?.company.groups[props.board.id]
  const { free, busy } = props.board.serving
  const wait = expectedWait(props.board.waiting.length + 1, live.state?.handling.get(props.board.id), free + busy)
  return [
    group && ringingWords[group.ringing],
    group && group.ringing !== 'none' && `${spell(group.ringTime)} each`,
    group && group.mostWaiting > 0 && `${group.mostWaiting} wait at most`,
    free === 0 && wait !== null && `whoever joins now waits about ${spell(wait)}`,
  ].filter(Boolean).join(', ')
})

function place(call: string, where: 'first' | 'last'): void {
  void desk.ask({ service: 'putInQueue', call, place: where })
}

function toOperators(call: string): void {
  void desk.ask({ service: 'deflectCall', call, from: props.board.id, to: live.state!.company.settings.operators })
}

function answer(call: string): void {
  void ways.perform({ do: 'ask', request: { service: 'directedPickupCall', call } })
}
</script>

<template>
  <aside
    class="panel"
    :aria-label="board.name"
  >
    <header>
      <h2>{{ board.name }}</h2>
      <el-button
        text
        size="small"
        @click="queues.open(null)"
      >
        Close
      </el-button>
    </header>
    <div
      class="content"
      tabindex="0"
    >
      <p :class="{ alarm: board.open && isDeserted(board) }">
        {{ board.waiting.length ? `${board.waiting.length} waiting` : 'Nobody waits' }}, {{ spell(board.promise) }} promised.
        {{ !board.open ? '' : isDeserted(board) ? 'Nobody is there to answer: whoever is sent here goes on at once.' : '' }}
      </p>
      <p class="about">
        {{ manner }}
      </p>
      <p
        v-if="desk.operates"
        :class="['opening', { alarm: !board.open }]"
      >
        <span>{{ opening.words }}</span>
        <el-button
          size="small"
          :disabled="!live.working"
          :aria-label="`${board.open ? 'Close' : 'Open'} the ${board.name}`"
          @click="setOpening(!board.open)"
        >
          {{ board.open ? 'Close it' : 'Open it' }}
        </el-button>
        <el-button
          v-if="opening.hours && opening.byHand"
          size="small"
          :disabled="!live.working"
          @click="setOpening(null)"
        >
          As its hours say
        </el-button>
      </p>
      <ol
        v-if="calls.length"
        aria-label="Who waits"
      >
        <li
          v-for="(call, index) in calls"
          :key="call.id"
          class="call"
        >
          <RibbonTime
            :used="call.used"
            :heat="call.heat"
          />
          <p class="who">
            <span>{{ call.waits }}</span> <strong>{{ call.name }}</strong> {{ call.number }}
          </p>
          <p class="about">
            {{ [call.line, call.by, call.refused ? `left by ${call.refused}` : ''].filter(Boolean).join(' · ') }}
          </p>
          <p
            v-if="call.rings.length || call.tries || call.told"
            class="about"
          >
            {{ [
              call.rings.length ? `rings at ${call.rings.join(', ')}` : '',
              call.tries > 1 ? `${call.tries} tries` : '',
              call.told ? `heard: “${call.told}”` : '',
            ].filter(Boolean).join(' · ') }}
          </p>
          <p
            v-if="call.said"
            class="about"
          >
            “{{ call.said }}”
          </p>
          <p
            v-if="desk.operates"
            class="acts"
          >
            <el-button
              size="small"
              type="primary"
              :disabled="!live.working"
              :aria-label="`Answer ${call.name} from the ${board.name}`"
              @click="answer(call.id)"
            >
              Answer
            </el-button>
            <el-button
              size="small"
              :disabled="!live.working"
              :aria-label="`Carry ${call.name} out of the ${board.name}`"
              @click="desk.carry(call.id)"
            >
              Carry to…
            </el-button>
            <el-button
              size="small"
              :disabled="!live.working"
              :aria-label="`Send ${call.name} to the operators`"
              @click="toOperators(call.id)"
            >
              Operators
            </el-button>
            <el-button
              v-if="calls.length > 1"
              size="small"
              :disabled="!live.working"
              :aria-label="`Put ${call.name} ${index > 0 ? 'first' : 'last'}`"
              @click="place(call.id, index > 0 ? 'first' : 'last')"
            >
              {{ index > 0 ? 'First' : 'Last' }}
            </el-button>
          </p>
        </li>
      </ol>
      <h3>
        <span>{{ board.serving.free }} free, {{ board.serving.busy }} talking, {{ board.serving.paused }} paused, {{ board.serving.away }} away</span>
        <el-button
          size="small"
          :aria-pressed="shownOnly"
          @click="queues.showOnly()"
        >
          {{ shownOnly ? 'Everybody' : 'Only them on the floor' }}&nbsp;<kbd>;</kbd>
        </el-button>
      </h3>
      <ul aria-label="Who serves it">
        <li
          v-for="member in members"
          :key="member.id"
          :class="['member', member.place]"
        >
          <button
            type="button"
            @click="field.pick(member.id)"
          >
            <span aria-hidden="true">{{ member.shape }}</span> <strong>{{ member.name }}</strong> {{ member.words }}
          </button>
          <QueueService
            v-if="desk.operates"
            :queue="board.id"
            :member="member.id"
            :name="member.name"
            :absence="member.absence"
            :ask="request => desk.ask({ ...request, of: member.id })"
          />
        </li>
      </ul>
    </div>
  </aside>
</template>

<style scoped>
h3 {
  display: flex;
  gap: var(--space-3);
  align-items: baseline;
  justify-content: space-between;
  padding-bottom: var(--space-2);
}

.alarm {
  color: var(--alarm);
  font-weight: 700;
}

.opening {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  padding-top: var(--space-2);
}

.opening .el-button {
  margin: 0;
}

.call {
  position: relative;
  display: grid;
  gap: var(--space-1);
  margin-top: var(--space-3);
  padding: var(--space-2) var(--space-3);
  overflow: hidden;
  border: 1px solid var(--edge);
  border-radius: var(--round);
}

.call p {
  position: relative;
  overflow-wrap: anywhere;
}

.who {
  font-size: var(--type-3);
}

.about {
  color: var(--ink-soft);
}

.acts {
  display: flex;
  gap: var(--space-2);
}

.acts .el-button {
  margin: 0;
}

.member {
  display: flex;
  align-items: center;
}

.member > button {
  flex: 1;
  min-width: 0;
  padding: var(--space-1) var(--space-3);
  background: var(--unlit);
  border: 0;
  border-bottom: 1px solid var(--sheet);
  color: var(--unlit-ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}

.member.free > button {
  background: var(--lit);
  color: var(--lit-ink);
}

.member.paused > button,
.member.away > button {
  background: var(--dark);
  color: var(--dark-ink);
}
</style>
