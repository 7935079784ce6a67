<script setup lang="ts">
import { useEventListener, useResizeObserver } from '@vueuse/core'
import { spell } from '~~/core/durations/durations'
import type { Stretch } from '~~/core/calls/stretches'
import type { Ribbon } from '~~/core/console/track'
import { type Place, settle } from '~~/core/console/stillness'
import { type Farewell, useDesk } from '~/stores/desk'

const props = defineProps<{
  stretch: Stretch
  title: string
  ribbons: Ribbon[]
  /** The ribbon that the keys act on: it lies open above the others. */
  open: Ribbon | null
  /** What stands in its place while there is none; null: this stretch has no such place. */
  nobody: string | null
  farewells: Farewell[]
  /** What the list says when nothing is in it. */
  empty: string
}>()
const desk = useDesk()
const list = useTemplateRef<HTMLElement>('list')
/** A hand rests here: nothing moves, and what has gone leaves a gap. */
const resting = useHandOn(useTemplateRef<HTMLElement>('whole'))
watch(resting, is => desk.rest(props.stretch, is), { immediate: true })

/** Whoever lay open among the arriving stays so under the hand; the call in hand is always the open one. */
const opened = computed<string | null>((before) => {
  const now = props.open?.call.id ?? null
  return resting.value && before && props.stretch === 'arriving' ? before : now
})
const places = computed<Place<Ribbon>[]>(before => settle(before ?? [], props.ribbons, ({ call }) => call.id, resting.value))
const openPlace = computed(() => props.ribbons.find(({ call }) => call.id === opened.value) ?? null)
/** A line that opens under the hand leaves a gap as well. */
const lines = computed<Place<Ribbon>[]>(before => places.value.flatMap((place) => {
  if (place.id !== opened.value) return [place]
  return resting.value && before?.some(({ id }) => id === place.id) ? [{ id: place.id, item: null }] : []
}))
const farewellOf = (id: string) => props.farewells.find(farewell => farewell.id === id)?.text
/** Whose place lies empty under the hand is told; that nobody waits only when it is so. */
const stands = computed(() => (opened.value && resting.value && farewellOf(opened.value))
  || (props.stretch === 'arriving' && props.ribbons.length > 0 ? t('track.theNextCallerStandsBelow') : null))
const others = computed(() => props.farewells.filter(({ id }) => !places.value.some(place => place.id === id) && id !== opened.value))

/** What does not fit is counted, with who of them has waited longest. */
const unseen = ref<string[]>([])
function count(): void {
  const box = list.value
  if (!box) return
  const { scrollTop, clientHeight } = box
  unseen.value = [...box.querySelectorAll<HTMLElement>('[data-call]')]
    .filter(({ offsetTop, offsetHeight }) => offsetTop + offsetHeight > scrollTop + clientHeight + 4 || offsetTop < scrollTop - 4)
    .map(({ dataset }) => dataset.call!)
}
useResizeObserver(list, count)
useEventListener(list, 'scroll', count, { passive: true })
watch(lines, count, { flush: 'post' })
const more = computed(() => {
  const ribbons = props.ribbons.filter(({ call }) => unseen.value.includes(call.id))
  return ribbons.length > 0 ? t('track.moreLongest', { count: ribbons.length, time: spell(desk.now - Math.min(...ribbons.map(({ due }) => due.since))) }) : ''
})
watch(() => desk.next?.call.id, (id) => {
  if (props.stretch === 'arriving' && desk.chosen) list.value?.querySelector(`[data-call="${id}"]`)?.scrollIntoView({ block: 'nearest' })
}, { flush: 'post' })
</script>

<template>
  <div
    ref="whole"
    :class="['stretch', stretch]"
  >
    <section
      class="calls"
      :aria-labelledby="`${stretch}-title`"
    >
      <h2 :id="`${stretch}-title`">
        {{ title }} <span
          v-if="ribbons.length"
          class="count"
        >{{ ribbons.length }}</span>
        <span class="more">{{ more }}</span>
      </h2>
      <ul
        v-if="nobody !== null"
        class="open"
      >
        <OpenRibbon
          v-if="openPlace"
          :key="openPlace.call.id"
          :ribbon="openPlace"
        />
        <li
          v-else
          class="nobody"
        >
          {{ stands ?? nobody }}
        </li>
      </ul>
      <ul
        ref="list"
        class="lines"
      >
        <template
          v-for="place in lines"
          :key="place.id"
        >
          <LineRibbon
            v-if="place.item"
            :ribbon="place.item"
            :data-call="place.id"
          />
          <li
            v-else
            class="gone"
          >
            {{ farewellOf(place.id) }}
          </li>
        </template>
        <li
          v-for="farewell in others"
          :key="farewell.id"
          class="gone"
        >
          {{ farewell.text }}
        </li>
        <li
          v-if="!lines.length && !others.length && empty"
          class="nothing"
        >
          {{ empty }}
        </li>
      </ul>
    </section>
    <div
      v-if="$slots.quiet"
      class="quiet"
    >
      <slot name="quiet" />
    </div>
  </div>
</template>

<style scoped>
.stretch {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
  padding: var(--space-2) var(--space-4);
}

.calls {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}

.stretch:has(.quiet) > .calls {
  flex: none;
}

.quiet {
  flex: 1;
  min-height: 0;
  padding-top: var(--space-3);
  overflow: hidden;
  color: var(--ink-soft);
  font-size: var(--type-2);
}

.quiet :deep(h3) {
  font: 600 var(--type-2) var(--font-sign);
}

.quiet :deep(li) {
  padding: var(--space-1) 0;
  border-bottom: 1px solid var(--edge);
}

.quiet :deep(.when) {
  display: inline-block;
  min-width: 5.5em;
  font-variant-numeric: tabular-nums;
}

.quiet :deep(strong) {
  color: var(--ink);
}

h2 {
  display: flex;
  flex: none;
  gap: var(--space-3);
  align-items: baseline;
  height: var(--stretch-title);
  font: 600 var(--type-2) var(--font-sign);
  color: var(--ink-soft);
}

.count {
  color: var(--ink);
  font-weight: 800;
}

.more {
  margin-left: auto;
  color: var(--call);
  font: 700 var(--type-2) var(--font-text);
}

.open {
  flex: none;
  height: var(--open-arriving);
  margin-bottom: var(--space-1);
}

.inHand .open {
  height: var(--open-in-hand);
}

.nobody {
  display: grid;
  height: 100%;
  padding: var(--space-3);
  place-items: center;
  border: 1px dashed var(--edge-strong);
  border-radius: var(--round);
  color: var(--ink-faint);
  text-align: center;
}

.lines {
  position: relative;
  display: grid;
  flex: 1;
  grid-auto-rows: max-content;
  gap: 1px;
  align-content: start;
  min-height: 0;
  overflow: hidden auto;
  scrollbar-width: thin;
}

.gone {
  min-height: var(--ribbon-line);
  padding: 0 var(--space-3);
  color: var(--ink-soft);
  font-style: italic;
}

.nothing {
  padding: 0 var(--space-3);
  color: var(--ink-faint);
}

/* A strip has room for the calls, the shelf and the field. */
@media (max-width: 36rem) {
  .quiet {
    display: none;
  }
}
</style>
