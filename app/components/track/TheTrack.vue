<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

const desk = useDesk()
const live = useLive()

/** Why nobody arrives here: nobody calls, or calls go to others for as long as one is not to be had. */
const nobody = computed(() => {
  const own = desk.device ? live.state?.devices.get(desk.device) : undefined
  if (own?.doNotDisturb) return 'Do not disturb is on: callers go to the others.'
  return own?.status.reason ? 'You are away: callers go to the others.' : 'Nobody is waiting.'
})

const stretches = computed(() => [
  { id: 'arriving', title: 'Arriving', empty: nobody.value, ribbons: desk.arriving },
  { id: 'in-hand', title: 'In hand', empty: 'No call in hand.', ribbons: desk.inHand },
  { id: 'passed-on', title: 'Passed on', empty: 'Nothing under way.', ribbons: desk.passedOn },
])
</script>

<template>
  <div class="track">
    <section
      v-for="stretch in stretches"
      :key="stretch.id"
      :class="['stretch', stretch.id]"
      :aria-labelledby="stretch.id"
    >
      <h2 :id="stretch.id">
        {{ stretch.title }} <span
          v-if="stretch.ribbons.length"
          class="count"
        >{{ stretch.ribbons.length }}</span>
      </h2>
      <ul>
        <TrackRibbon
          v-for="ribbon in stretch.ribbons"
          :key="ribbon.call.id"
          :ribbon="ribbon"
        />
        <template v-if="stretch.id === 'passed-on'">
          <li
            v-for="farewell in desk.farewells"
            :key="farewell.id"
            class="farewell"
          >
            {{ farewell.text }}
          </li>
        </template>
        <li
          v-if="!stretch.ribbons.length && !(stretch.id === 'passed-on' && desk.farewells.length)"
          class="nothing"
        >
          {{ stretch.empty }}
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.track {
  display: grid;
  grid-template-columns: 1fr 1.25fr 1fr;
  flex: none;
  min-height: 9.75rem;
  max-height: 42vh;
  background: var(--sheet);
  border-bottom: var(--line);
}

.stretch {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: var(--space-3) var(--space-4) var(--space-4);
}

.stretch + .stretch {
  border-left: 1px dashed var(--edge);
}

h2 {
  font: 600 var(--type-3) var(--font-sign);
  color: var(--ink-soft);
  padding-bottom: var(--space-2);
}

.count {
  color: var(--ink);
  font-weight: 800;
}

ul {
  display: grid;
  grid-auto-rows: max-content;
  gap: var(--space-2);
  align-content: start;
  overflow: auto;
  min-height: 0;
}

.nothing {
  color: var(--ink-faint);
  padding: var(--space-3) 0;
}

.farewell {
  padding: var(--space-3) var(--space-4);
  border: 1px dashed var(--edge-strong);
  border-radius: var(--round);
  color: var(--ink-soft);
}

@media (max-width: 60rem) {
  .track {
    grid-template-columns: 1fr;
    max-height: 50vh;
    min-height: 0;
    overflow: auto;
  }

  .stretch + .stretch {
    border-left: 0;
    border-top: 1px dashed var(--edge);
  }

  .stretch {
    min-height: auto;
  }

  ul {
    overflow: visible;
  }

  /* However many wait, the call in hand stays in sight. */
  .arriving ul {
    max-height: 10.5rem;
    overflow: auto;
  }

  .nothing {
    padding: 0;
  }
}
</style>
