<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import type { Ribbon } from '~~/core/console/track'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useVoice } from '~/stores/voice'

const props = defineProps<{ ribbon: Ribbon }>()
const desk = useDesk()
const dialogs = useDialogs()
const voice = useVoice()

const {
  call, due, used, heat, own, name, called, number, isNext, isAsking, several, origin, waits, news, greeting, source, firm, sign, warning,
} = useRibbonWords(() => props.ribbon)
const talking = computed(() => due.value.waiting === 'none')
/** What somebody says who waits cannot be heard. */
const caption = computed(() => voice.captions && props.ribbon.stretch === 'inHand' ? call.value.caption?.text || null : null)
</script>

<template>
  <li
    v-call-source="source"
    :class="['ribbon', heat, due.waiting, { next: isNext, asking: isAsking, carried: desk.carried?.id === call.id, draggable: source }]"
  >
    <RibbonTime
      v-if="due.promise !== null"
      :used="used"
      :heat="heat"
    />
    <div class="words">
      <p class="top">
        <span class="origin">{{ origin }}</span>
        <span class="clock">
          <span class="wait">{{ waits }}</span> {{ spell(desk.now - due.since) }}
          <span
            v-if="call.created < due.since - 1000"
            class="first"
            :title="t('track.sinceFirstContact')"
          >{{ t('track.ofTime', { time: spell(desk.now - call.created) }) }}</span>
        </span>
      </p>
      <p
        v-if="!(several && ribbon.stretch === 'inHand')"
        class="who"
      >
        <button
          type="button"
          class="name"
          :aria-label="t('track.theStoryOf', { called })"
          :title="t('track.itsStory2')"
          @click="dialogs.story = call.id"
        >
          {{ sign }} {{ name }}
        </button> <span
          v-if="own?.muted"
          class="muted"
        >{{ t('track.youAreMuted') }}</span> <span
          v-if="call.recording"
          class="muted"
        >● {{ t('track.recorded') }}</span> <span
          v-if="number"
          class="number"
        >{{ number }}</span> <span
          v-if="firm"
          class="number"
        >{{ firm }}</span>
      </p>
      <p
        v-else-if="own?.muted || call.recording"
        class="who"
      >
        <span
          v-if="own?.muted"
          class="muted"
        >{{ t('track.youAreMuted') }}</span> <span
          v-if="call.recording"
          class="muted"
        >● {{ t('track.recorded') }}</span>
      </p>
      <p
        v-if="warning"
        class="warning"
      >
        {{ warning }}
      </p>
      <p
        v-if="news"
        class="news"
      >
        {{ news }}
      </p>
      <ConferenceMembers
        v-if="several && ribbon.stretch === 'inHand'"
        :call="call"
      />
      <p
        v-if="greeting && !caption"
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
    <RibbonActions :ribbon="ribbon" />
  </li>
</template>

<style scoped>
.ribbon {
  position: relative;
  display: flex;
  gap: var(--space-3);
  height: 100%;
  overflow: hidden;
  background: var(--paper);
  border: var(--line);
  border-radius: var(--round);
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

.ribbon.none {
  background: var(--lit);
  border-color: var(--lit-edge);
}

.words {
  position: relative;
  flex: 1;
  min-width: 0;
  padding: var(--space-2) 0 var(--space-2) var(--space-4);
  overflow: hidden auto;
  scrollbar-width: thin;
  line-height: 1.25;
}

.actions {
  flex: none;
  padding: var(--space-2) var(--space-2) 0 0;
}

.top {
  display: flex;
  gap: var(--space-4);
  font-size: var(--type-2);
}

.origin {
  font-weight: 600;
  overflow-wrap: anywhere;
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

.muted {
  padding: 0 var(--space-2);
  background: var(--alarm);
  color: var(--alarm-ink);
  border-radius: var(--round);
}

.name {
  max-width: 100%;
  padding: 0;
  background: none;
  border: 0;
  font-size: var(--type-4);
  font-weight: 700;
  line-height: 1.2;
  text-align: left;
  overflow-wrap: anywhere;
  cursor: pointer;
}

.none .name {
  font-size: var(--type-5);
}

.name:hover {
  text-decoration: underline;
}

.number {
  color: var(--ink-soft);
  white-space: nowrap;
}

.warm .number,
.late .number {
  color: inherit;
}

.news {
  font-weight: 600;
  overflow-wrap: anywhere;
}

.warning {
  padding-left: var(--space-3);
  border-left: 3px solid var(--ink);
  font-weight: 600;
  overflow-wrap: anywhere;
}

.greeting.talking {
  font: 500 var(--type-4)/1.25 var(--font-sign);
  color: var(--ink-soft);
}

.caption {
  overflow-wrap: anywhere;
}

.none .caption {
  padding-top: var(--space-2);
  font-size: var(--type-4);
}
</style>
