<script setup lang="ts">
const props = defineProps<{
  /** What is made larger or smaller. */
  label: string
  /** The line lies across (the zone above it grows downwards) or stands upright (the zone to its right grows to the left). */
  direction: 'across' | 'upright'
  /** In CSS pixels. */
  size: number
  min: number
  max: number
}>()
const emit = defineEmits<{ resize: [size: number], reset: [] }>()
const step = 16

let grip: { at: number, size: number } | null = null
const positionOf = (event: PointerEvent) => props.direction === 'across' ? event.clientY : -event.clientX

function set(size: number): void {
  emit('resize', Math.round(Math.min(props.max, Math.max(props.min, size))))
}

function hold(event: PointerEvent): void {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  grip = { at: positionOf(event), size: props.size }
}

function drag(event: PointerEvent): void {
  if (grip) set(grip.size + positionOf(event) - grip.at)
}

const sizes: Record<string, () => number> = {
  ArrowUp: () => props.size - step,
  ArrowDown: () => props.size + step,
  ArrowLeft: () => props.size + step,
  ArrowRight: () => props.size - step,
  Home: () => props.min,
  End: () => props.max,
}

function press(event: KeyboardEvent): void {
  const size = sizes[event.key]
  if (!size) return
  event.preventDefault()
  event.stopPropagation()
  set(size())
}
</script>

<template>
  <!-- A separator that can be focused is a control of its own (WAI-ARIA: window splitter). -->
  <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -->
  <div
    :class="['splitter', direction]"
    role="separator"
    tabindex="0"
    :aria-label="label"
    :aria-orientation="direction === 'across' ? 'horizontal' : 'vertical'"
    :aria-valuenow="size"
    :aria-valuemin="min"
    :aria-valuemax="max"
    @pointerdown="hold"
    @pointermove="drag"
    @pointerup="grip = null"
    @pointercancel="grip = null"
    @dblclick="emit('reset')"
    @keydown="press"
  />
</template>

<style scoped>
.splitter {
  position: relative;
  flex: none;
  background: var(--paper-deep);
  touch-action: none;
}

.across {
  height: 0.375rem;
  border-block: var(--line);
  cursor: row-resize;
}

.upright {
  width: 0.375rem;
  border-inline: var(--line);
  cursor: col-resize;
}

.splitter::after {
  position: absolute;
  inset: 0;
  width: 2rem;
  height: 2px;
  margin: auto;
  background: var(--edge-strong);
  content: '';
}

.upright::after {
  width: 2px;
  height: 2rem;
}

@media (max-width: 60rem) {
  .splitter {
    display: none;
  }
}
</style>
