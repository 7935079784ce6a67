<script setup lang="ts">
import { useElementVisibility } from '@vueuse/core'
import { abreast, type Density, type Front } from '~~/core/console/floor'
import { useCarrying } from '~/stores/carrying'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import type { Block, Place } from './places'

/** As much of the floor as is in sight at once. Unless all of it is to be drawn always, what is far from sight is not; its room is kept. */
const props = defineProps<{ places: Place[], front: Front, density: Density, reachable: string | null, always: boolean }>()
const live = useLive()
const field = useField()
const carrying = useCarrying()
const whole = useTemplateRef<HTMLElement>('whole')
const near = useElementVisibility(whole, { rootMargin: '600px 0px', initialValue: true })
const rows = computed(() => props.front.rows)
const columns = computed(() => props.front.columns)
const rowHeight = computed(() => `${props.front.height}px`)
const height = computed(() => `${props.front.height * props.front.rows}px`)
const sideBySide = computed(() => abreast[props.density])
const scale = computed(() => props.front.scale)
const freeOf = ({ people }: Block) => people.filter(({ id }) => live.presences.get(id)?.lit).length
</script>

<template>
  <ul
    ref="whole"
    :class="['front', density]"
  >
    <template v-if="always || near">
      <template
        v-for="(place, index) in places"
        :key="place.people?.[0]?.id ?? place.block?.department.id ?? index"
      >
        <li
          v-if="place.people"
          class="people"
        >
          <FloorWindow
            v-for="person in place.people"
            :key="person.id"
            :person="person"
            :density="density"
            :reachable="reachable === person.id"
            @click="field.pick(person.id)"
          />
        </li>
        <li
          v-else-if="place.block"
          class="plate"
        >
          <h3>
            <button
              v-call-target="place.block.group"
              type="button"
              :class="{ over: place.block.group !== null && carrying.over?.target === place.block.group }"
              :disabled="place.block.group === null"
              tabindex="-1"
              :aria-label="`${place.block.department.name}, ${place.block.site}: ${freeOf(place.block)} of ${place.block.people.length} free`"
              :title="`${place.block.department.name}, ${place.block.site}`"
              @click="place.block.group && field.pick(place.block.group)"
            >
              <span class="department">{{ place.block.department.name }}</span>
              <span class="free">{{ freeOf(place.block) }}/{{ place.block.people.length }}</span>
              <span class="site">{{ place.block.site }}</span>
            </button>
          </h3>
        </li>
        <li
          v-else
          aria-hidden="true"
        />
      </template>
    </template>
  </ul>
</template>

<style scoped>
.front {
  position: relative;
  display: grid;
  grid-template-rows: repeat(v-bind(rows), v-bind(rowHeight));
  grid-template-columns: repeat(v-bind(columns), minmax(0, 1fr));
  grid-auto-flow: column;
  column-gap: var(--space-3);
  height: v-bind(height);
  padding-inline: var(--space-4);
  font-size: calc(var(--type-2) * v-bind(scale));
  --floor-row: calc(v-bind(rowHeight) - 2px);
}

.front.numbers {
  font-size: calc(var(--type-1) * v-bind(scale));
}

.people {
  display: grid;
  grid-template-columns: repeat(v-bind(sideBySide), minmax(0, 1fr));
  gap: 1px;
  min-width: 0;
  padding: 1px 0;
}

.numbers .people {
  padding: 0 0 1px;
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

.numbers .plate {
  border-bottom-width: 1px;
}

.plate .free,
.plate .site {
  color: var(--ink-faint);
  font: 500 0.9em var(--font-text);
}

.plate .site {
  display: none;
  grid-column: 1 / 3;
}

.windows .plate .site,
.rooms .plate .site {
  display: block;
}

.rooms .plate button {
  font-size: 1.3em;
}
</style>
