<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { useCarrying } from '~/stores/carrying'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { usePreferences } from '~/stores/preferences'
import { useQueues } from '~/stores/queues'
import { useSpeedKeys } from '~/stores/speed-keys'

const desk = useDesk()
const field = useField()
const directory = useDirectory()
const carrying = useCarrying()
const preferences = usePreferences()
const queues = useQueues()
const speedKeys = useSpeedKeys()
const route = useRoute()

/** The least that a zone keeps, in CSS pixels, when the line beside it is moved to its end. */
const least = { track: 200, floor: 140, panel: 220, front: 320 }
const asDesigned = { track: 288, panel: 320 }
/** What lies between track and floor, and keeps its height. */
const between = 122
const { height, width } = useElementSize(useTemplateRef<HTMLElement>('whole'))
const mostTrack = computed(() => Math.max(least.track, Math.round(height.value) - between - least.floor))
const mostPanel = computed(() => Math.max(least.panel, Math.round(width.value) - least.front))
/** As the operator has set it, as far as this window has room for it. */
const track = computed(() => Math.min(mostTrack.value, Math.max(least.track, preferences.track ?? asDesigned.track)))
const panel = computed(() => Math.min(mostPanel.value, Math.max(least.panel, preferences.panel ?? asDesigned.panel)))
const trackHeight = computed(() => `${track.value}px`)
const panelWidth = computed(() => `${panel.value}px`)

/** Whoever is marked among the answers has the side panel while they are. */
const marked = computed(() => field.isSearching && field.best ? directory.person(field.best.id) : undefined)

// The side panel shows one thing at a time: what was asked for last.
watch(() => queues.opened?.id, opened => opened && speedKeys.show(false))
watch(() => speedKeys.shown, shown => shown && queues.open(null))

// What opens beside the floor, or can be sent along with a call, is there at the first press, also while the server is away.
void later(() => Promise.all([
  import('~/components/speed-keys/KeysPanel.vue'), import('~/components/queues/QueuePanel.vue'), import('~/components/field/FieldAddition.vue'),
  import('~/components/log/EarlierCalls.vue'),
]))

// Opened by a tel: link: the number is in the field, and Enter calls it.
onMounted(() => {
  const { dial } = route.query
  if (typeof dial !== 'string') return
  field.type(dial.replace(/^tel:/i, '').slice(0, 60))
  void navigateTo('/', { replace: true })
})
</script>

<template>
  <div
    ref="whole"
    class="console"
  >
    <h1 class="unseen">
      {{ t('track.console') }}
    </h1>
    <template v-if="desk.device">
      <TheTrack class="whole-track" />
      <TheSplitter
        :label="t('track.heightOfTheTrack')"
        direction="across"
        :size="track"
        :min="least.track"
        :max="mostTrack"
        @resize="preferences.set({ track: $event })"
        @reset="preferences.set({ track: null })"
      />
      <div class="shelf">
        <ParkSlots />
        <QueueShelf />
      </div>
    </template>
    <HouseNotReady />
    <WhoIsItFor />
    <div class="below">
      <AnswerWindows />
      <TheFloor />
      <template v-if="preferences.panelShown">
        <TheSplitter
          :label="t('track.widthOfTheSidePanel')"
          direction="upright"
          :size="panel"
          :min="least.panel"
          :max="mostPanel"
          @resize="preferences.set({ panel: $event })"
          @reset="preferences.set({ panel: null })"
        />
        <LazyKeysPanel
          v-if="speedKeys.shown"
          class="side"
        />
        <PersonCard
          v-else-if="marked"
          class="side"
          :person="marked"
        />
        <LazyQueuePanel
          v-else-if="queues.opened"
          :key="queues.opened.id"
          class="side"
          :board="queues.opened"
        />
        <SidePanel
          v-else
          class="side"
        />
      </template>
    </div>
    <PinnedKeys />
    <p
      v-if="carrying.words"
      class="carrying"
      role="status"
    >
      {{ carrying.words }}
    </p>
  </div>
</template>

<style scoped>
.console {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}

.whole-track {
  height: v-bind(trackHeight);
}

.below {
  display: flex;
  flex: 1;
  min-height: 0;
}

.side {
  width: v-bind(panelWidth);
}

.carrying {
  position: fixed;
  inset: auto 0 0;
  z-index: 10;
  padding: var(--space-4) var(--space-5);
  background: var(--ink);
  color: var(--paper);
  font-size: var(--type-4);
  text-align: center;
  pointer-events: none;
}

/* A strip beside other programs, or a page enlarged: one column that scrolls under the calls. */
@media (max-width: 60rem) {
  .console {
    overflow: hidden auto;
  }

  .whole-track {
    position: sticky;
    top: 0;
    z-index: 6;
    height: auto;
  }

  .below {
    flex: none;
    flex-direction: column;
    min-height: 24rem;
  }

  .side {
    width: auto;
  }
}
</style>
