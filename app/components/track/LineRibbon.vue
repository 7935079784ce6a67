<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import type { Ribbon } from '~~/core/console/track'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'

const props = defineProps<{ ribbon: Ribbon }>()
const desk = useDesk()
const dialogs = useDialogs()

const { call, due, used, heat, name, called, number, isNext, isAsking, origin, waits, news, source, sign } = useRibbonWords(() => props.ribbon)
</script>

<template>
  <li
    v-call-source="source"
    :class="['line', heat, due.waiting, { next: isNext, asking: isAsking, carried: desk.carried?.id === call.id, draggable: source }]"
  >
    <RibbonTime
      v-if="due.promise !== null"
      :used="used"
      :heat="heat"
    />
    <p class="words">
      <span
        class="clock"
        :title="waits"
      >{{ spell(desk.now - due.since) }}<span class="unseen"> {{ waits }}</span></span>
      <span
        v-if="ribbon.stretch !== 'passedOn' && due.waiting !== 'recall'"
        class="origin"
      >{{ origin }}</span>
      <button
        type="button"
        class="name"
        :aria-label="t('track.theStoryOf', { called })"
        :title="t('track.itsStory', { called })"
        @click="dialogs.story = call.id"
      >
        {{ sign }} {{ name }}
      </button>
      <span
        v-if="call.recording"
        class="news"
      >● {{ t('track.recorded') }}</span>
      <span
        v-if="number"
        class="number"
      >{{ number }}</span>
      <span
        v-if="news"
        class="news"
        :title="news"
      >{{ news }}</span>
    </p>
    <RibbonActions
      :ribbon="ribbon"
      line
    />
  </li>
</template>

<style scoped>
.line {
  position: relative;
  display: flex;
  flex: none;
  gap: var(--space-2);
  align-items: flex-start;
  min-height: var(--ribbon-line);
  overflow: hidden;
  background: var(--paper);
  border-radius: var(--round);
  font-size: var(--type-2);
  line-height: var(--ribbon-line);
}

.line.next {
  box-shadow: inset 3px 0 0 var(--ink);
}

.line.draggable {
  cursor: grab;
}

.line.carried {
  outline: 2px dashed var(--focus);
  outline-offset: -2px;
}

.line.asking {
  border-left: 4px double var(--ink);
}

.words {
  position: relative;
  display: flex;
  flex: 1;
  flex-wrap: wrap;
  gap: 0 var(--space-3);
  min-width: 0;
  padding-left: var(--space-3);
}

.clock {
  min-width: 2.1rem;
}

.late .clock {
  font-weight: 800;
}

.origin {
  white-space: nowrap;
}

.name {
  flex: none;
  max-width: 14rem;
  padding: 0;
  overflow: hidden;
  background: none;
  border: 0;
  font-weight: 700;
  line-height: inherit;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}

.name:hover {
  text-decoration: underline;
}

.number {
  white-space: nowrap;
}

.news {
  font-weight: 600;
}

/* In one line with who arrives; a row of its own for what was passed on or waits in hand. */
.answer .words,
.recall .words {
  flex-wrap: nowrap;
}

.answer .origin,
.recall .news {
  flex: 0 10 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.hold .news,
.transfer .news,
.outside .news,
.reply .news {
  flex: 1 0 100%;
  line-height: 1.2;
  overflow-wrap: anywhere;
}

@media (max-width: 40rem) {
  .answer .origin,
  .recall .origin,
  .recall .news {
    display: none;
  }
}
</style>
