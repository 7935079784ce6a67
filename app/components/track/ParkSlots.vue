<script setup lang="ts">
import { deadlineOf } from '~~/core/calls/timers'
import { heatOf } from '~~/core/console/lateness'
import { spell } from '~~/core/durations/durations'
import { useCarrying } from '~/stores/carrying'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useSpeedKeys } from '~/stores/speed-keys'
import { useWays } from '~/stores/ways'

const ways = useWays()
const speedKeys = useSpeedKeys()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const carrying = useCarrying()

const slots = computed(() => desk.slots.map(({ slot, call }, index) => {
  const parked = call?.parked
  const used = parked ? (desk.now - parked.at) / Math.max(1, (deadlineOf(live.state!, call) ?? desk.now) - parked.at) : 0
  return {
    id: slot.id,
    name: slot.name,
    // Ten have a key of their own.
    digit: index < 10 ? (index + 1) % 10 : '',
    call,
    who: call ? directory.nameOf(call.calling, call.party) : '',
    reserved: parked?.for ? directory.nameOf(parked.for) : null,
    by: parked ? directory.nameOf(parked.by) : '',
    waits: parked ? spell(desk.now - parked.at) : '',
    heat: heatOf(used),
    used,
  }
}))
const taken = computed(() => slots.value.filter(slot => slot.call).length)

/** Does what the slot says: takes from there, or parks there. Whoever it named and who has just gone is not mistaken for somebody else. */
function press({ id, call }: typeof slots.value[number]): void {
  const deed = ways.aimAt(`${call ? 'take' : 'park'} ${id}`)
  if (deed && deed !== 'gone') void ways.perform(deed)
}

const columns = 5
/** One slot can be reached with Tab; the arrow keys go on from there. */
const reachable = ref(0)
const buttons = useTemplateRef<HTMLButtonElement[]>('buttons')
function walk(event: KeyboardEvent): void {
  const [here, last] = [reachable.value, slots.value.length - 1]
  const to = { ArrowLeft: here - 1, ArrowRight: here + 1, ArrowUp: here - columns, ArrowDown: here + columns, Home: 0, End: last }[event.key]
  if (to === undefined || !slots.value[to]) return
  event.preventDefault()
  reachable.value = to
  buttons.value?.[to]?.focus()
}

function labelOf({ name, call, who, reserved, by, waits }: typeof slots.value[number]): string {
  if (!call) return desk.baton ? t('track.parkInSlot', { name: desk.otherName(desk.baton), name2: name }) : t('track.slotFree', { name })
  return t('track.takeFromSlotParkedBy', { who, name, more: reserved ? t('track.keptFor', { reserved }) : '', by, waits })
}
</script>

<template>
  <section
    class="slots"
    aria-labelledby="slots-title"
  >
    <h2 id="slots-title">
      <span>{{ t('track.parkedTaken', { taken: taken || '' }) }}</span>
      <span class="keys"><kbd>#</kbd> {{ t('track.take') }}</span>
      <span class="keys"><kbd>*</kbd> {{ t('track.park') }}</span>
    </h2>
    <ul>
      <li
        v-for="(slot, index) in slots"
        :key="slot.id"
        v-call-source="slot.call?.id ?? null"
        :class="{ taken: slot.call }"
        :title="labelOf(slot)"
      >
        <button
          ref="buttons"
          v-call-target="slot.id"
          type="button"
          :tabindex="index === reachable ? 0 : -1"
          :class="['slot', { over: carrying.over?.target === slot.id }]"
          :aria-disabled="!live.working || (!slot.call && !desk.baton)"
          :aria-label="labelOf(slot)"
          @keydown.shift.f9.exact.prevent="speedKeys.add(speedKeys.keyOf(slot.id))"
          @click="press(slot)"
          @focus="reachable = index"
          @keydown.exact="walk"
        >
          <RibbonTime
            v-if="slot.call"
            :used="slot.used"
            :heat="slot.heat"
          />
          <span class="place"><span class="digit">{{ slot.digit }}</span><span
            v-if="slot.call"
            class="waits"
          >{{ slot.waits }}</span></span>
          <span
            v-if="slot.call"
            class="who"
          >{{ slot.who }}<span
            v-if="slot.reserved"
            class="for"
          >{{ ` ${t('track.forReserved', { reserved: slot.reserved })}` }}</span></span>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.slots {
  flex: 1;
  min-width: 0;
  padding: 0 var(--space-4);
}

/* Two rows of five: a slot is wide enough for a name and for whom the caller is kept. */
ul {
  display: grid;
  flex: 1;
  grid-template-columns: repeat(v-bind(columns), minmax(0, 1fr));
  gap: var(--space-1);
  min-width: 0;
}

.slot {
  grid-template-columns: auto 1fr;
  gap: var(--space-2);
  align-items: center;
  width: 100%;
  height: 1.5rem;
  border: 1px dashed var(--edge-strong);
  font-size: var(--type-1);
  line-height: 1;
}

.slot[aria-disabled='true'] {
  cursor: default;
}

.taken .slot {
  background: var(--paper);
  border-style: solid;
  color: var(--ink);
}

.place,
.who {
  position: relative;
}

.place {
  display: grid;
}

.digit {
  font-size: var(--type-3);
  font-weight: 700;
}

.taken .digit {
  font-size: var(--type-1);
}

.who {
  max-height: 2em;
  overflow: hidden;
  font-weight: 650;
  overflow-wrap: anywhere;
}

.for {
  font-weight: 400;
}

@media (max-width: 60rem) {
  .slots {
    display: block;
    height: auto;
    padding-block: var(--space-1);
  }

  .keys {
    display: none;
  }

  .slot {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }

  .slot,
  .taken .slot {
    height: 2.5rem;
  }
}
</style>
