<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { type Density, frontOf } from '~~/core/console/floor'
import { useCarrying } from '~/stores/carrying'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { usePreferences } from '~/stores/preferences'
import { useQueues } from '~/stores/queues'

const directory = useDirectory()
const live = useLive()
const field = useField()
const carrying = useCarrying()
const preferences = usePreferences()
const queues = useQueues()
const floor = useTemplateRef<HTMLElement>('floor')
const room = useElementSize(floor)

/** Everybody, or the members of one queue. */
const departments = computed(() => {
  const members = queues.only && new Set(queues.only.members)
  if (!members) return directory.floor
  return directory.floor.flatMap((block) => {
    const people = block.people.filter(({ id }) => members.has(id))
    return people.length > 0 ? [{ ...block, people }] : []
  })
})
const barHeight = 32
/** Few people have room for what they are doing. */
const density = computed<Density>(() => queues.only && preferences.density === 'names' ? 'windows' : preferences.density)
const size = computed(() => ({ width: room.width.value, height: room.height.value - (queues.only ? barHeight : 0) }))
const front = computed(() => frontOf(departments.value.map(({ people }) => people.length), size.value, density.value))
const rows = computed(() => front.value.rows)
const columns = computed(() => front.value.columns)
const rowHeight = computed(() => `${front.value.height}px`)
const scale = computed(() => front.value.scale)
const free = computed(() => [...live.presences.values()].filter(presence => presence.lit).length)
const freeOf = (people: { id: string }[]) => people.filter(({ id }) => live.presences.get(id)?.lit).length
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

/** Up and down along a column, and on into the next; left and right to whoever is level in the column beside it. */
function neighbour(windows: HTMLElement[], at: number, key: string): HTMLElement | undefined {
  if (key === 'ArrowDown') return windows[at + 1]
  if (key === 'ArrowUp') return windows[at - 1]
  if (key !== 'ArrowLeft' && key !== 'ArrowRight') return undefined
  const { offsetLeft: x, offsetTop: y } = windows[at]!
  const beyond = windows.filter(({ offsetLeft }) => key === 'ArrowRight' ? offsetLeft > x : offsetLeft < x)
  const column = key === 'ArrowRight' ? beyond[0]?.offsetLeft : beyond.at(-1)?.offsetLeft
  return beyond.filter(({ offsetLeft }) => offsetLeft === column).sort((a, b) => Math.abs(a.offsetTop - y) - Math.abs(b.offsetTop - y))[0]
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
      Everybody: {{ free }} of {{ directory.people.length }} free
    </h2>
    <p
      v-if="queues.only"
      class="only"
    >
      Only who serves the {{ queues.only.name }}
      <el-button
        size="small"
        @click="queues.showOnly()"
      >
        Everybody&nbsp;<kbd>;</kbd>
      </el-button>
    </p>
    <ul :class="['front', density]">
      <template
        v-for="({ department, site, group, people }, index) in departments"
        :key="department.id"
      >
        <li
          v-for="gap in front.gaps[index]"
          :key="`gap ${gap}`"
          aria-hidden="true"
        />
        <li class="plate">
          <h3>
            <button
              v-call-target="group"
              type="button"
              :class="{ over: group !== null && carrying.over?.target === group }"
              :disabled="group === null"
              tabindex="-1"
              :aria-label="`${department.name}, ${site}: ${freeOf(people)} of ${people.length} free`"
              :title="`${department.name}, ${site}`"
              @click="group && field.pick(group)"
            >
              <span class="department">{{ department.name }}</span>
              <span class="free">{{ freeOf(people) }}/{{ people.length }}</span>
              <span class="site">{{ site }}</span>
            </button>
          </h3>
        </li>
        <FloorWindow
          v-for="person in people"
          :key="person.id"
          :person="person"
          :density="density"
          :reachable="(reachable ?? first) === person.id"
          @click="field.pick(person.id)"
        />
      </template>
    </ul>
    <p
      v-if="!directory.people.length"
      class="empty"
    >
      Nobody is in the directory yet.
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

.front {
  position: relative;
  display: grid;
  grid-template-rows: repeat(v-bind(rows), v-bind(rowHeight));
  grid-template-columns: repeat(v-bind(columns), minmax(0, 1fr));
  grid-auto-flow: column;
  column-gap: var(--space-3);
  padding-inline: var(--space-4);
  font-size: calc(var(--type-2) * v-bind(scale));
  --floor-row: calc(v-bind(rowHeight) - 2px);
}

.only {
  display: flex;
  gap: var(--space-4);
  align-items: center;
  height: 2rem;
  padding-inline: var(--space-4);
  font: 600 var(--type-3) var(--font-sign);
}

.plate {
  min-width: 0;
  border-bottom: 2px solid var(--edge-strong);
}

h3 {
  height: 100%;
  font: 700 1em/1.1 var(--font-sign);
}

.plate button {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 0.4em;
  align-content: end;
  align-items: baseline;
  width: 100%;
  height: 100%;
  padding: 0 var(--space-2);
  overflow: hidden;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  text-align: left;
  white-space: nowrap;
  cursor: pointer;
}

.department {
  overflow: hidden;
  font-size: 0.92em;
  letter-spacing: -0.02em;
  text-overflow: ellipsis;
}

.plate button:disabled {
  cursor: default;
}

.plate button.over {
  outline: 3px solid var(--focus);
}

.free,
.site {
  color: var(--ink-faint);
  font: 500 0.9em var(--font-text);
}

.site {
  display: none;
  grid-column: 1 / 3;
}

.windows .site,
.rooms .site {
  display: block;
}

.rooms .plate button {
  font-size: 1.3em;
}

.empty {
  padding: var(--space-6);
  text-align: center;
}
</style>
