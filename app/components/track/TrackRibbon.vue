<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { greetingAt } from '~~/core/greetings/greeting'
import { formatNumber } from '~~/core/numbers/dialled'
import { connectionOf, othersOf } from '~~/core/calls/questions'
import { urgency } from '~~/core/calls/promises'
import { tellConsulted, tellRecall, whyFailed } from '~~/core/calls/story'
import { type Ribbon, useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** With more calls waiting than this, only the next one shows its greeting. */
const roomForGreetings = 4

const props = defineProps<{ ribbon: Ribbon }>()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const panels = usePanels()

const call = computed(() => props.ribbon.call)
const due = computed(() => props.ribbon.due)
const elapsed = computed(() => desk.now - due.value.since)
const used = computed(() => urgency(due.value, desk.now))
const heat = computed(() => used.value > 1 ? 'late' : used.value > 0.6 ? 'warm' : 'calm')
/** The promise is drawn at 100 of 150: what is later sticks out beyond the line. */
const length = computed(() => due.value.promise === null ? 0 : Math.min(150, used.value * 100))

const line = computed(() => directory.line(call.value.line))
const party = computed(() => connectionOf(call.value, call.value.calling)?.party ?? othersOf(call.value, desk.device ?? '')[0]?.party)
const number = computed(() => party.value?.name && party.value.number ? formatNumber(party.value.number) : null)
const other = computed(() => desk.device ? othersOf(call.value, desk.device)[0] : undefined)
const isNext = computed(() => desk.next?.call.id === call.value.id)
const talking = computed(() => due.value.waiting === 'none')
const several = computed(() => call.value.connections.length > 2 && Boolean(call.value.conference || call.value.connections.some(connection => connection.invited)))
const own = computed(() => desk.device ? connectionOf(call.value, desk.device) : undefined)
const isAsking = computed(() => desk.consultation?.id === call.value.id)
const source = computed(() => live.working && !several.value && !isAsking.value && due.value.waiting !== 'reply' ? call.value.id : null)

const origin = computed(() => {
  if (isAsking.value && desk.askedFor) return `Asking for ${desk.otherName(desk.askedFor)}`
  if (call.value.conference) return 'Conference'
  if (line.value) return line.value.name
  if (call.value.direction === 'outbound') return 'Calling out'
  return call.value.direction === 'internal' ? 'Inside' : 'Your extension'
})

const news = computed(() => {
  const { recall, passing, consulted } = call.value
  const state = live.state!
  if (other.value?.state === 'failed') {
    const cause = call.value.story.findLast(step => step.type === 'failed')?.cause
    return `${directory.nameOf(other.value.device)} ${(cause && whyFailed[cause]) ?? 'can\'t be reached'}`
  }
  if (passing) {
    const where = call.value.connections.some(connection => connection.state === 'queued') ? 'waits in the' : 'rings at'
    const to = call.value.connections.find(connection => connection.device === passing.to)
    return `${where} ${directory.nameOf(passing.to, to?.party)}${passing.note ? ` with “${passing.note}”` : ''}`
  }
  if (desk.askedFor?.id === call.value.id && own.value?.state === 'held') return `waits while you ask ${desk.otherName(desk.consultation!)}`
  if (consulted) return tellConsulted(consulted, directory.nameOf, state.settings.ringCycle)
  if (recall) {
    const back = tellRecall(recall, directory.nameOf, state.settings.ringCycle)
    return recall.to === desk.device || recall.to === state.settings.operators ? `Back: ${back}` : `Back for ${directory.nameOf(recall.to)}: ${back}`
  }
  if (due.value.waiting === 'reply' && !isAsking.value) return `ringing ${desk.otherName(call.value)}`
  return null
})

/** What to say on answering: before the answer as long as there is room for it, and until somebody else has had the call. */
const greeting = computed(() => {
  if (!line.value || call.value.recall || several.value) return null
  const answers = call.value.story.filter(step => step.type === 'established').length
  const wanted = talking.value ? answers < 2 : props.ribbon.stretch === 'arriving' && (isNext.value || desk.arriving.length <= roomForGreetings)
  return wanted ? greetingAt(new Date(desk.now).getHours(), line.value.greeting) : null
})
const waits = { answer: 'waiting', recall: 'back since', hold: 'on hold', transfer: 'ringing', reply: 'ringing', none: 'talking' } as const
const caption = computed(() => call.value.caption?.text || null)
</script>

<template>
  <li
    v-call-source="source"
    :class="['ribbon', heat, due.waiting, { next: isNext, asking: isAsking, carried: desk.carried?.id === call.id, draggable: source }]"
  >
    <svg
      v-if="due.promise !== null"
      class="time"
      viewBox="0 0 150 10"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <rect
        x="0"
        y="0"
        :width="length"
        height="10"
      />
      <line
        x1="100"
        x2="100"
        y1="0"
        y2="10"
      />
    </svg>
    <div class="words">
      <p class="top">
        <span class="origin">{{ origin }}</span>
        <span class="clock">
          <span class="wait">{{ waits[due.waiting] }}</span> {{ spell(elapsed) }}
          <span
            v-if="call.created < due.since - 1000"
            class="first"
            title="Since first contact"
          >of {{ spell(desk.now - call.created) }}</span>
        </span>
      </p>
      <p
        v-if="!(several && ribbon.stretch === 'inHand')"
        class="who"
      >
        <button
          type="button"
          class="name"
          :aria-label="`The story of ${desk.otherName(call)}`"
          title="Its story"
          @click="panels.openStory(call.id)"
        >
          {{ desk.otherName(call) }}
        </button> <span
          v-if="own?.muted"
          class="muted"
        >you are muted</span> <span
          v-if="number"
          class="number"
        >{{ number }}</span>
      </p>
      <p
        v-if="news"
        class="news"
      >
        {{ news }}
      </p>
      <p
        v-if="several && own?.muted"
        class="who"
      >
        <span class="muted">you are muted</span>
      </p>
      <ConferenceMembers
        v-if="several && ribbon.stretch === 'inHand'"
        :call="call"
      />
      <p
        v-if="greeting"
        :class="['greeting', { talking }]"
      >
        {{ greeting }}
      </p>
      <p
        v-if="caption"
        class="caption"
      >
        “{{ caption }}”
      </p>
    </div>
    <RibbonActions
      :ribbon="ribbon"
      :is-next="isNext"
    />
  </li>
</template>

<style scoped>
.ribbon {
  position: relative;
  display: flex;
  align-items: center;
  gap: var(--space-3);
  padding: var(--space-2) var(--space-3) var(--space-2) var(--space-4);
  background: var(--paper);
  border: var(--line);
  border-radius: var(--round);
  overflow: hidden;
}

.ribbon.next {
  border-color: var(--ink);
  box-shadow: inset 3px 0 0 var(--ink);
}

.ribbon.draggable {
  cursor: grab;
}

.ribbon.carried {
  outline: 3px dashed var(--focus);
  outline-offset: -3px;
}

/* A consultation hangs under the caller it is for. */
.ribbon.asking {
  border-left: 6px double var(--ink);
}

.muted {
  padding: 0 var(--space-2);
  background: var(--alarm);
  color: var(--alarm-ink);
  border-radius: var(--round);
}

.ribbon.none {
  background: var(--lit);
  border-color: var(--lit-edge);
}

.time {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

.time rect {
  fill: var(--time);
}

.warm .time rect {
  fill: var(--time-warm);
}

.late .time rect {
  fill: var(--time-late);
}

.time line {
  stroke: var(--ink-soft);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
  stroke-dasharray: 2 2;
}

.words {
  position: relative;
  flex: 1;
  min-width: 0;
}

/* The words stay on this side of the promise, what to do stands on the other. */
.time + .words {
  flex: 0 0 calc(66.7% - var(--space-5));
}

.time ~ .actions {
  margin-left: auto;
}

.top {
  display: flex;
  justify-content: space-between;
  gap: var(--space-3);
  font-size: var(--type-2);
}

.origin {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.clock {
  flex: none;
}

.late .clock {
  font-weight: 750;
}

.late .wait,
.first {
  font-weight: 400;
}

.who,
.greeting {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.name {
  max-width: 100%;
  padding: 0;
  overflow: hidden;
  background: none;
  border: 0;
  font-size: var(--type-4);
  font-weight: 700;
  text-overflow: ellipsis;
  white-space: nowrap;
  vertical-align: bottom;
  cursor: pointer;
}

.name:hover {
  text-decoration: underline;
}

.number {
  color: var(--ink-soft);
}

.warm .number,
.late .number {
  color: inherit;
}

.news {
  font-weight: 600;
  overflow-wrap: anywhere;
}

.next .greeting,
.greeting.talking {
  white-space: normal;
}

.greeting.talking {
  font: 500 var(--type-4) var(--font-sign);
  color: var(--ink-soft);
}

.caption {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
}

.none .caption {
  font-size: var(--type-4);
  -webkit-line-clamp: 4;
  line-clamp: 4;
}

@media (max-width: 40rem) {
  .ribbon:not(.answer, .recall) {
    flex-wrap: wrap;
  }

  .ribbon:not(.answer, .recall) .words {
    flex: 1 0 100%;
  }

  .ribbon:not(.answer, .recall) .actions {
    max-width: none;
  }
}
</style>
