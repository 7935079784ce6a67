<script setup lang="ts">
import { onClickOutside, useEventListener } from '@vueuse/core'
import { urgency } from '~~/core/queues/promises'
import { heatOf } from '~~/core/console/lateness'
import type { Ribbon } from '~~/core/console/track'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** The track on every other page: folded into one band, with the same calls, keys and buttons; opened, it lies over the page. */
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const keys = useHandKeys()
const open = ref(false)
const band = useTemplateRef<HTMLElement>('band')
onClickOutside(band, () => { open.value = false }, { ignore: ['.el-popper', '.el-overlay'] })
useEventListener(band, 'keydown', onKey)

const zone = (id: string, title: string, ribbon: Ribbon | null, count: number, nobody: string) => ({
  id, title, ribbon, count, nobody,
  heat: heatOf(ribbon ? urgency(ribbon.due, desk.now) : 0),
  used: ribbon ? urgency(ribbon.due, desk.now) : 0,
  time: ribbon ? spell(desk.now - ribbon.due.since) : '',
  name: ribbon ? desk.shownName(ribbon.call) : '',
  line: ribbon && id === 'waits' ? ribbon.call.recall ? t('track.back') : directory.lineName(ribbon.call) : '',
})
const longest = computed(() => [...desk.passedOn].sort((a, b) => a.due.since - b.due.since)[0] ?? null)
const zones = computed(() => [
  zone('waits', 'waiting', desk.next, desk.arriving.length, t('track.nobodyWaiting')),
  zone('talks', t('track.inHandInline'), desk.track.open, desk.track.open ? 1 : 0, t('track.noCallInHand2')),
  zone('holds', t('common.onHold'), desk.held[0] ?? null, desk.held.length, t('track.nobodyOnHold')),
  zone('under-way', t('track.underWay'), longest.value, desk.passedOn.length, t('track.nothingUnderWay2')),
])

/** In the band every key of the hand counts; typing goes where it belongs, to the page. */
function onKey(event: KeyboardEvent): void {
  if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || event.repeat || event.key === 'Tab') return
  if (event.key === 'Escape' && open.value) {
    event.preventDefault()
    open.value = false
    return
  }
  // A button that has the focus is pressed by Enter and Space, as everywhere.
  if ((event.key === 'Enter' || event.key === ' ') && event.target instanceof HTMLButtonElement) return
  if (live.working && keys.pressInHand(event)) event.preventDefault()
}

const isNumber = (name: string) => /^[+\d\s()-]+$/.test(name)
</script>

<template>
  <section
    ref="band"
    class="band"
    :aria-label="t('common.calls')"
    tabindex="-1"
  >
    <div class="folded">
      <ul>
        <li
          v-for="{ id, title, ribbon, count, nobody, heat, used, time, name, line } in zones"
          :key="id"
          :class="[id, heat]"
        >
          <template v-if="ribbon">
            <RibbonTime
              v-if="ribbon.due.promise !== null"
              :used="used"
              :heat="heat"
            />
            <strong
              v-if="count > 1"
              class="count"
              aria-hidden="true"
            >{{ count }}</strong>
            <span class="words"><strong>{{ time }}</strong> {{ line }} <strong :class="{ number: isNumber(name) }">{{ name }}</strong>{{
              count > 1 ? `, ${count} ${title}` : ` ${title}`
            }}</span>
            <RibbonActions
              :ribbon="ribbon"
              line
            />
          </template>
          <span
            v-else
            class="nobody"
          >{{ nobody }}</span>
        </li>
      </ul>
      <el-button
        :aria-expanded="open"
        aria-controls="whole-track"
        @click="open = !open"
      >
        {{ open ? t('track.fold') : t('track.allCalls') }}
      </el-button>
    </div>
    <RefusalSlip />
    <TheTrack
      v-if="open"
      id="whole-track"
      class="whole"
    />
  </section>
</template>

<style scoped>
.band {
  position: relative;
  z-index: 20;
  flex: none;
  background: var(--sheet);
  border-bottom: var(--line);
}

.folded {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  height: 2.25rem;
  padding: 0 var(--space-4);
}

ul {
  display: grid;
  flex: 1;
  grid-template-columns: 1.4fr 1.1fr 1.1fr 1fr;
  gap: var(--space-3);
  min-width: 0;
}

li {
  position: relative;
  display: flex;
  gap: var(--space-3);
  align-items: center;
  min-width: 0;
  height: 1.75rem;
  overflow: hidden;
  background: var(--paper);
  border-radius: var(--round);
}

/* How many there are is seen also where the words have no room. */
.count {
  position: relative;
  flex: none;
  padding-left: var(--space-3);
}

.words,
.nobody {
  position: relative;
  flex: 1;
  min-width: 0;
  padding-left: var(--space-3);
  overflow: hidden;
  font-size: var(--type-2);
  line-height: 1.1;
}

.words {
  max-height: 100%;
}

/* It is read aloud: no line ends within it. */
.number {
  white-space: nowrap;
}

.nobody {
  color: var(--ink-faint);
}

.folded > .el-button {
  height: 1.75rem;
}

.whole {
  position: absolute;
  inset: 100% 0 auto;
  height: var(--track);
  max-height: 70vh;
  border-bottom: var(--line);
  box-shadow: 0 6px 18px var(--shade);
}

@media (max-width: 60rem) {
  .folded {
    height: auto;
    padding: var(--space-1) var(--space-3);
  }

  ul {
    grid-template-columns: minmax(0, 1fr);
    gap: 1px;
  }

  li:has(.nobody) {
    display: none;
  }

  .whole {
    height: auto;
    overflow: auto;
  }
}
</style>
