<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~~/core/numbers/dialled'
import { connectionOf, othersOf } from '~~/core/calls/questions'
import { urgency } from '~~/core/calls/promises'
import type { Ribbon } from '~~/core/console/track'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'

const props = defineProps<{ ribbon: Ribbon }>()
const desk = useDesk()
const live = useLive()
const dialogs = useDialogs()

const call = computed(() => props.ribbon.call)
const due = computed(() => props.ribbon.due)
const elapsed = computed(() => desk.now - due.value.since)
const used = computed(() => urgency(due.value, desk.now))
const heat = computed(() => used.value > 1 ? 'late' : used.value > 0.6 ? 'warm' : 'calm')

const party = computed(() => connectionOf(call.value, call.value.calling)?.party ?? othersOf(call.value, desk.device ?? '')[0]?.party)
const number = computed(() => party.value?.name && party.value.number ? formatNumber(party.value.number) : null)
const talking = computed(() => due.value.waiting === 'none')
const { own, isNext, isAsking, several, origin, news, greeting } = useRibbonWords(() => props.ribbon)
const source = computed(() => live.working && !several.value && !isAsking.value && due.value.waiting !== 'reply' ? call.value.id : null)
const waits = { answer: 'waiting', recall: 'back since', hold: 'on hold', transfer: 'ringing', outside: 'outside', reply: 'ringing', none: 'talking' } as const
const caption = computed(() => call.value.caption?.text || null)
</script>

<template>
  <li
    v-call-source="source"
    :class="['ribbon', heat, due.waiting, { next: isNext, asking: isAsking, carried: desk.carried?.id === call.id, draggable: source }]"
  >
    <RibbonTime
      v-if="due.promise !== null"
      class="time"
      :used="used"
      :heat="heat"
    />
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
          @click="dialogs.story = call.id"
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
