<script setup lang="ts">
import { useElementVisibility } from '@vueuse/core'
import { abreast, type Density, type Front } from '~~/core/console/floor'
import type { Place } from './places'

/**
 * As much of the floor as is in sight at once. Unless all of it is to be drawn always, what is far from sight is not; its room is kept.
 * `first`: it is in sight when the floor is opened.
 */
const props = defineProps<{ places: Place[], front: Front, density: Density, reachable: string | null, always: boolean, first: boolean }>()
const whole = useTemplateRef<HTMLElement>('whole')
const near = useElementVisibility(whole, { rootMargin: '600px 0px', initialValue: props.first })
const rows = computed(() => props.front.rows)
const columns = computed(() => props.front.columns)
const rowHeight = computed(() => `${props.front.height}px`)
const height = computed(() => `${props.front.height * props.front.rows}px`)
const sideBySide = computed(() => abreast[props.density])
const scale = computed(() => props.front.scale)
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
            :roomy="front.roomy"
            :reachable="reachable === person.id"
          />
        </li>
        <li
          v-else-if="place.block"
          class="plate"
        >
          <FloorPlate
            :block="place.block"
            :density="density"
          />
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

.numbers .plate {
  border-bottom-width: 1px;
}
</style>
