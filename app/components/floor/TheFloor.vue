<script setup lang="ts">
import { useElementSize, useWindowSize } from '@vueuse/core'
import { abreast, type Density, frontOf, type Size } from '~~/core/console/floor'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useFloor } from '~/stores/floor'
import { useLive } from '~/stores/live'
import { usePreferences } from '~/stores/preferences'
import { useQueues } from '~/stores/queues'
import { placesOf } from './places'

const directory = useDirectory()
const live = useLive()
const field = useField()
const shown = useFloor()
const preferences = usePreferences()
const queues = useQueues()
const floor = useTemplateRef<HTMLElement>('floor')
const room = useElementSize(floor)
const { width: windowWidth, height: windowHeight } = useWindowSize()
/** As a strip, the page scrolls and the floor is as high as it needs to be. */
const strip = 960

const departments = computed(() => shown.departments)
const barHeight = 32
/** So many people are drawn whether they are in sight or not. */
const mostDrawn = 400
/** Few people have room for what they are doing. */
const density = computed<Density>(() => queues.only && (preferences.density === 'numbers' || preferences.density === 'names') ? 'windows' : preferences.density)
/** Null until it is known: everybody in no room at all would be drawn at once. Behind the answers it stays as it was. */
const size = computed<Size | null>((before) => {
  if (room.width.value === 0) return before ?? null
  const height = windowWidth.value <= strip ? windowHeight.value / 2 : room.height.value
  return { width: room.width.value, height: height - (shown.filtered ? barHeight : 0) }
})
const front = computed(() => size.value && frontOf(departments.value.map(({ people }) => people.length), size.value, density.value))
/** What stands where, and in how many parts it is drawn. */
const parts = computed(() => front.value ? placesOf(departments.value, front.value, abreast[density.value]) : [])
const free = computed(() => [...live.everybody().values()].filter(presence => presence.lit).length)
/** One window of the floor can be reached with Tab; the arrow keys go on from there. */
const reachable = ref<string | null>(null)
const first = computed(() => departments.value[0]?.people[0]?.id ?? null)

function onKey(event: KeyboardEvent): void {
  const windows = [...floor.value!.querySelectorAll<HTMLElement>('.window')]
  const at = windows.indexOf(document.activeElement as HTMLElement)
  if (at < 0) return
  const target = event.key === 'Home' ? windows[0] : event.key === 'End' ? windows.at(-1) : neighbour(windows, at, event.key)
  if (!target) return
  event.preventDefault()
  reachable.value = target.dataset.person!
  target.focus()
}

/**
 * Up and down along a column, and on into the next; left and right to whoever is level beside it. Windows stand in the document column by column, from top to
 * bottom.
 */
function neighbour(windows: HTMLElement[], at: number, key: string): HTMLElement | undefined {
  const here = windows[at]!
  const { offsetLeft: x, offsetTop: y } = here
  const front = here.closest('ul')
  const [before, after] = [windows.slice(0, at).reverse(), windows.slice(at + 1)].map(all => all.filter(window => window.closest('ul') === front))
  switch (key) {
    case 'ArrowDown':
      return after!.find(window => window.offsetLeft === x && window.offsetTop > y) ?? after!.find(window => window.offsetTop < y) ?? windows[at + 1]
    case 'ArrowUp':
      return before!.find(window => window.offsetLeft === x && window.offsetTop < y) ?? before!.find(window => window.offsetTop > y) ?? windows[at - 1]
    case 'ArrowLeft':
    case 'ArrowRight': {
      const beyond = [...before!, ...after!].filter(({ offsetLeft }) => key === 'ArrowRight' ? offsetLeft > x : offsetLeft < x)
      const lefts = beyond.map(({ offsetLeft }) => offsetLeft)
      const column = key === 'ArrowRight' ? Math.min(...lefts) : Math.max(...lefts)
      return beyond.filter(({ offsetLeft }) => offsetLeft === column).sort((a, b) => Math.abs(a.offsetTop - y) - Math.abs(b.offsetTop - y))[0]
    }
  }
}
</script>

<template>
  <!-- Arrow keys walk through the windows, which are buttons; the section only hears of it. -->
  <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -->
  <section
    v-show="!field.isSearching"
    ref="floor"
    class="floor"
    aria-labelledby="floor-title"
    @keydown="onKey"
  >
    <h2
      id="floor-title"
      class="unseen"
    >
      {{ t('floor.everybodyOfFree', { free, count: directory.people.length }) }}
    </h2>
    <p
      v-if="shown.filtered"
      class="only"
    >
      <span>{{ t('floor.onlyWords', { words: shown.words }) }}</span>
      <el-button
        size="small"
        @click="shown.everybody()"
      >
        {{ t('floor.everybody') }}&nbsp;<kbd>)</kbd>
      </el-button>
    </p>
    <FloorFront
      v-for="(places, index) in parts"
      :key="index"
      :places="places"
      :front="front!"
      :density="density"
      :reachable="reachable ?? first"
      :always="directory.people.length <= mostDrawn"
      :first="index === 0"
    />
    <p
      v-if="shown.filtered && !departments.length"
      class="empty"
    >
      {{ t('floor.nobody') }} <kbd>)</kbd> {{ t('floor.showsEverybodyAgain') }}
    </p>
    <p
      v-if="!directory.people.length"
      class="empty"
    >
      {{ t('floor.nobodyIsInTheDirectory') }}
    </p>
  </section>
</template>

<style scoped>
.floor {
  flex: 1;
  min-width: 0;
  min-height: 0;
  overflow: hidden auto;
  scrollbar-width: thin;
}

.only {
  display: flex;
  gap: var(--space-4);
  align-items: center;
  height: 2rem;
  padding-inline: var(--space-4);
  font: 600 var(--type-3) var(--font-sign);
}

.empty {
  padding: var(--space-6);
  text-align: center;
}
</style>
