<script setup lang="ts">
import { deadlineOf } from '~~/core/calls/timers'
import { spell } from '~~/core/durations/durations'
import { useCarrying } from '~/stores/carrying'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const carrying = useCarrying()

const slots = computed(() => desk.slots.map(({ slot, call }, index) => {
  const parked = call?.parked
  const used = parked ? (desk.now - parked.at) / Math.max(1, (deadlineOf(live.state!, call) ?? desk.now) - parked.at) : 0
  return {
    id: slot.id,
    digit: (index + 1) % 10,
    call,
    who: call ? directory.nameOf(call.calling, call.party) : '',
    reserved: parked?.for ? directory.nameOf(parked.for) : null,
    by: parked ? directory.nameOf(parked.by) : '',
    waits: parked ? spell(desk.now - parked.at) : '',
    heat: used > 0.8 ? 'late' : used > 0.5 ? 'warm' : 'calm',
    used: Math.max(0, Math.min(1, used)) * 100,
  }
}))
const taken = computed(() => slots.value.filter(slot => slot.call).length)

function press(index: number): void {
  const { id, call } = slots.value[index]!
  if (call) void desk.ask({ service: 'directedPickupCall', call: call.id })
  else if (desk.baton) void desk.ask({ service: 'parkCall', call: desk.baton.id, slot: id, for: null })
}

function labelOf({ digit, call, who, reserved, by, waits }: typeof slots.value[number]): string {
  if (!call) return desk.baton ? `Park ${desk.otherName(desk.baton)} in slot ${digit || 10}` : `Slot ${digit || 10}, free`
  return `Take ${who} from slot ${digit || 10}${reserved ? `, parked for ${reserved}` : ''}, parked by ${by}, waiting ${waits}`
}
</script>

<template>
  <section
    class="slots"
    aria-labelledby="slots-title"
  >
    <h2 id="slots-title">
      Parked <span v-if="taken">{{ taken }}</span> <kbd>#</kbd>
    </h2>
    <ul>
      <li
        v-for="(slot, index) in slots"
        :key="slot.id"
        v-call-source="slot.call?.id ?? null"
        :class="{ taken: slot.call }"
      >
        <button
          v-call-target="slot.id"
          type="button"
          :class="['slot', slot.heat, { over: carrying.over?.target === slot.id }]"
          :disabled="!live.working || (!slot.call && !desk.baton)"
          :aria-label="labelOf(slot)"
          :title="labelOf(slot)"
          @click="press(index)"
        >
          <svg
            v-if="slot.call"
            viewBox="0 0 100 10"
            preserveAspectRatio="none"
            aria-hidden="true"
          ><rect
            :width="slot.used"
            height="10"
          /></svg>
          <span class="digit">{{ slot.digit }}</span>
          <template v-if="slot.call">
            <span class="who">{{ slot.who }}<template v-if="slot.reserved"> <span class="for">for {{ slot.reserved }}</span></template></span>
            <span class="time">{{ slot.waits }}</span>
          </template>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.slots {
  display: flex;
  flex: none;
  align-items: center;
  gap: var(--space-4);
  padding: var(--space-2) var(--space-4);
  background: var(--paper-deep);
  border-bottom: var(--line);
}

h2 {
  flex: none;
  color: var(--ink-soft);
  font: 600 var(--type-3) var(--font-sign);
}

ul {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
  gap: var(--space-2);
  min-width: 0;
}

.taken {
  flex: 0 1 17rem;
  min-width: 9rem;
}

.slot {
  position: relative;
  display: flex;
  align-items: center;
  gap: var(--space-3);
  width: 100%;
  min-width: 1.75rem;
  height: 1.75rem;
  padding: 0 var(--space-3);
  overflow: hidden;
  background: transparent;
  border: 1px dashed var(--edge-strong);
  border-radius: var(--round);
  color: var(--ink-soft);
  cursor: pointer;
}

.slot:disabled {
  cursor: default;
}

.taken .slot {
  background: var(--paper);
  border-style: solid;
  color: var(--ink);
}

.slot.over {
  outline: 3px solid var(--focus);
}

svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

rect {
  fill: var(--time);
}

.warm rect {
  fill: var(--time-warm);
}

.late rect {
  fill: var(--time-late);
}

.digit,
.who,
.time {
  position: relative;
}

.digit {
  font-weight: 700;
}

.who {
  flex: 1;
  overflow: hidden;
  font-weight: 650;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.for {
  padding-left: var(--space-2);
  font-weight: 400;
}

@media (max-width: 40rem) {
  .slots li:not(.taken) {
    display: none;
  }

  .slots li:not(.taken):nth-child(-n + 5) {
    display: block;
  }
}
</style>
