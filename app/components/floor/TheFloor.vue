<script setup lang="ts">
import { useCarrying } from '~/stores/carrying'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'

const directory = useDirectory()
const live = useLive()
const field = useField()
const carrying = useCarrying()
const floor = useTemplateRef<HTMLElement>('floor')

const free = computed(() => [...live.presences.values()].filter(presence => presence.lit).length)
/** One window of the floor can be reached with Tab; the arrow keys go on from there. */
const reachable = ref<string | null>(null)
const first = computed(() => directory.floor[0]?.people[0]?.id ?? null)

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

function neighbour(windows: HTMLElement[], at: number, key: string): HTMLElement | undefined {
  if (key === 'ArrowRight') return windows[at + 1]
  if (key === 'ArrowLeft') return windows[at - 1]
  if (key !== 'ArrowDown' && key !== 'ArrowUp') return undefined
  const { offsetLeft: x, offsetTop: y } = windows[at]!
  const beyond = windows.filter(window => key === 'ArrowDown' ? window.offsetTop > y : window.offsetTop < y)
  const row = key === 'ArrowDown' ? beyond[0]?.offsetTop : beyond.at(-1)?.offsetTop
  return beyond.filter(window => window.offsetTop === row).sort((a, b) => Math.abs(a.offsetLeft - x) - Math.abs(b.offsetLeft - x))[0]
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
    <ul class="front">
      <template
        v-for="{ department, site, group, people } in directory.floor"
        :key="department.id"
      >
        <li class="plate">
          <h3>
            <button
              v-call-target="group"
              type="button"
              :class="{ over: group !== null && carrying.over?.target === group }"
              :disabled="group === null"
              tabindex="-1"
              :aria-label="`${department.name}: whoever is free`"
              @click="group && field.pick(group)"
            >
              {{ department.name }}
            </button>
          </h3>
          <span>{{ site }}</span>
        </li>
        <FloorWindow
          v-for="person in people"
          :key="person.id"
          :person="person"
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
  min-height: 0;
  overflow: auto;
  padding: 0 var(--space-4) var(--space-4);
}

.front {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(6.2rem, 1fr));
  grid-auto-rows: 1.875rem;
  gap: var(--space-1);
  position: relative;
}

.plate {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  padding: 0 var(--space-2);
  overflow: hidden;
  line-height: 1.15;
}

h3 {
  font: 700 var(--type-2)/1.1 var(--font-sign);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.plate button {
  display: block;
  width: 100%;
  padding: 0;
  overflow: hidden;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}

.plate button.over {
  outline: 3px solid var(--focus);
}

.plate span {
  color: var(--ink-faint);
  font-size: var(--type-1);
  white-space: nowrap;
}

.empty {
  padding: var(--space-6);
  text-align: center;
}

@media (max-width: 40rem) {
  .front {
    grid-template-columns: repeat(auto-fill, minmax(6.5rem, 1fr));
    grid-auto-rows: 2.5rem;
  }
}
</style>
