<script setup lang="ts">
import type { Call, CallBack } from '~~/core/calls/model'
import { queueOf } from '~~/core/calls/questions'
import { inTheirTurn } from '~~/core/queues/turns'
import { type Place, settle } from '~~/core/console/stillness'
import { isDeserted, type QueueBoard } from '~~/core/queues/board'
import { memberPlace } from '~~/core/queues/serving'
import { paceOf, waitAhead } from '~~/core/queues/expected-wait'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'

/** One queue, live: who waits in it and what can be done for them, and who serves it. */
const props = defineProps<{ board: QueueBoard }>()
const queues = useQueues()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const field = useField()
const { short } = usePresenceWords()

/** Who waits keeps their place under the hand: whoever goes leaves a gap. */
const resting = useHandOn(useTemplateRef<HTMLElement>('waiting'))
const places = shallowRef<Place<Waiting>[]>([])
/** Who waits, and who is to be called back, in the order in which they are served. */
interface Waiting { id: string, since: number, call?: Call, promise?: CallBack }
const inTurn = computed(() => (live.state ? inTheirTurn(live.state, props.board.id) : []).map(({ call, promise, since }): Waiting =>
  ({ id: (call ?? promise)!.id, since: call ? queueOf(call)!.since : since, call, promise })))
function arrange(resting: boolean): void {
  places.value = settle(places.value, inTurn.value, ({ id }) => id, resting)
}
watch([inTurn, resting], () => arrange(resting.value), { immediate: true })
/** In the company's order: nobody moves because a call comes or goes. */
const members = computed(() => (live.company?.groups[props.board.id]?.members ?? []).map((id) => {
  const presence = live.presences.get(id)
  const words = presence ? short(presence, desk.now) : { what: '', time: '' }
  const absence = live.state?.devices.get(id)?.absences?.[props.board.id]
  return {
    id, absence, name: directory.nameOf(id), shape: presence ? shapeOf(presence) : '',
    place: memberPlace(live.state!, props.board.id, id),
    words: [absence && absenceWords(absence, desk.now), `${words.what} ${words.time}`.trim()].filter(Boolean).join(' · '),
  }
}))
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
  const group = live.company?.groups[props.board.id]
  const { free, busy } = props.board.serving
  const wait = live.state && waitAhead(props.board.waiting.length + 1, paceOf(live.state, props.board.id, free + busy))
  return [
    group && t(ringingWords[group.ringing]),
    group && group.ringing !== 'none' && t('queues.timeEach', { time: spell(group.ringTime) }),
    group && group.mostWaiting > 0 && t('queues.waitAtMost', { mostWaiting: group.mostWaiting }),
    free === 0 && wait && t('queues.whoeverJoinsNowWaitsAbout', { time: spell(wait.mean), time2: spell(wait.low), time3: spell(wait.high) }),
    free === 0 && wait && t('queues.thePromiseIsKeptFor', { n: Math.round(100 * wait.within(props.board.promise)) }),
  ].filter(Boolean).join(', ')
})
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
        {{ t('common.close') }}
      </el-button>
    </header>
    <div
      ref="waiting"
      class="content waiting"
      tabindex="0"
      role="group"
      :aria-label="t('common.calls')"
    >
      <p :class="{ alarm: board.open && isDeserted(board) }">
        {{ t('queues.moreTimePromisedMore2', {
          more: board.waiting.length ? t('queues.countWaiting', { count: board.waiting.length }) : t('queues.nobodyWaits'),
          time: spell(board.promise),
          more2: board.open && isDeserted(board) ? t('queues.nobodyIsThereToAnswer') : '',
        }) }}
      </p>
      <ol
        v-if="places.length"
        :aria-label="t('queues.whoWaits')"
      >
        <template
          v-for="place in places"
          :key="place.id"
        >
          <QueueCall
            v-if="place.item?.call"
            :call="place.item.call"
            :since="place.item.since"
            :board="board"
            @placed="arrange(false)"
          />
          <QueuePromise
            v-else-if="place.item?.promise"
            :promise="place.item.promise"
          />
          <li
            v-else
            class="gone"
          >
            {{ t('queues.doesNotWaitHereAny') }}
          </li>
        </template>
      </ol>
      <p class="soft">
        {{ manner }}
      </p>
    </div>
    <div
      class="content"
      tabindex="0"
      role="group"
      :aria-label="t('queues.openingAndMembers')"
    >
      <p
        v-if="desk.operates"
        :class="['opening', { alarm: !board.open }]"
      >
        <span>{{ opening.words }}</span>
        <el-button
          size="small"
          :disabled="!live.working"
          :aria-label="t('queues.moreTheName', { more: board.open ? t('common.close') : t('common.open'), name: board.name })"
          @click="setOpening(!board.open)"
        >
          {{ board.open ? t('queues.closeIt') : t('queues.openIt') }}
        </el-button>
        <el-button
          v-if="opening.hours && opening.byHand"
          size="small"
          :disabled="!live.working"
          @click="setOpening(null)"
        >
          {{ t('queues.asItsHoursSay') }}
        </el-button>
      </p>
      <h3>
        <span>{{ t('queues.freeTalkingPausedAway', {
          free: board.serving.free, busy: board.serving.busy, paused: board.serving.paused, away: board.serving.away,
        }) }}</span>
        <el-button
          size="small"
          :aria-pressed="shownOnly"
          @click="queues.showOnly()"
        >
          {{ shownOnly ? t('queues.everybody') : t('queues.onlyThemOnTheFloor') }}&nbsp;<kbd>;</kbd>
        </el-button>
      </h3>
      <ul :aria-label="t('queues.whoServesIt')">
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

/* Who comes and goes above moves nobody below. */
.panel .waiting {
  flex: 0 0 58%;
  border-bottom: 1px solid var(--edge);
}

ol {
  display: grid;
  gap: var(--space-3);
  padding: var(--space-2) 0;
}

.gone {
  padding: var(--space-2) var(--space-3);
  color: var(--ink-soft);
  font-style: italic;
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
