<script lang="ts">
import { useEventListener } from '@vueuse/core'
import { type Component, shallowRef } from 'vue'

/** One line of a menu: `under` belongs to the one above it, `mark` stands before the words and is not read aloud. */
export interface Choice { id: string, label: string, key?: string, mark?: string, divided?: boolean, under?: boolean, disabled?: boolean }

/** What opens menus, for all of them, as soon as it has been fetched. */
const program = shallowRef<Component | null>(null)

async function fetchProgram(): Promise<void> {
  program.value ??= (await import('./OpenableMenu.vue')).default
}
</script>

<script setup lang="ts">
/** A button that opens a menu of choices. Whoever presses it before menus can be opened has theirs as soon as they can. */
const props = defineProps<{ choices: readonly Choice[], disabled?: boolean, staysOpen?: boolean }>()
const emit = defineEmits<{ choose: [id: string], open: [] }>()
const place = useTemplateRef<HTMLElement>('place')
const awaited = ref(false)
const focused = ref(false)

onMounted(() => {
  if (!program.value) void later(fetchProgram)
})

// The button is made anew inside what opens the menu: it keeps the keyboard.
watch(program, () => {
  focused.value = place.value?.contains(document.activeElement) ?? false
}, { flush: 'sync' })

useEventListener(place, 'click', () => {
  if (props.disabled) return
  awaited.value = true
  // Away with the server: it opens when that is back.
  fetchProgram().catch(() => {})
})
</script>

<template>
  <component
    :is="program"
    v-if="program"
    :choices="choices"
    :disabled="disabled"
    :stays-open="staysOpen"
    :focused="focused"
    :open-at-once="awaited"
    @choose="emit('choose', $event)"
    @open="emit('open')"
  >
    <slot />
  </component>
  <span
    v-else
    ref="place"
    class="place"
  >
    <slot />
  </span>
</template>

<style scoped>
.place {
  display: inline-flex;
}
</style>
