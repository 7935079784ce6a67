<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'

const desk = useDesk()
const field = useField()
const live = useLive()
const keys = useHandKeys()
const input = useTemplateRef<HTMLInputElement>('input')

const marked = computed(() => field.isSearching && field.best ? `answer-${field.best.id}` : undefined)
const busy = computed(() => desk.asking || field.taking)
const changing = new Set(['ArrowDown', 'ArrowUp', 'Escape'])
/** Whoever empties the field with Backspace and presses once too often means the field, not a call. */
const eraserRests = 700
let erased = -Infinity

function focus(): void {
  input.value?.focus()
}
useTypingAnywhere(focus)
// A key that belongs to nothing on the page is for the field as well.
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.target !== document.body || event.key.length === 1 || event.key === 'Tab') return
  focus()
  onKey(event)
})
onMounted(focus)
// Whatever was done, the field is ready again.
watch(() => [desk.talking?.id, field.text === '', desk.carried?.id], () => {
  if (!document.activeElement || document.activeElement === document.body || document.activeElement.closest('.track, .floor, .slots')) focus()
}, { flush: 'post' })

function onKey(event: KeyboardEvent): void {
  if (event.metaKey || event.altKey || event.isComposing) return
  // A key that is held down must not answer one call after the other, and Backspace that empties the field must not go on to the calls.
  if (event.repeat && !changing.has(event.key) && (field.text === '' || event.key === 'Enter')) {
    event.preventDefault()
    return
  }
  if (event.key === 'Backspace') {
    if (field.text === '' && event.timeStamp - erased < eraserRests) return
    if (field.text !== '' && !busy.value) erased = event.timeStamp
  }
  if (!live.working && !changing.has(event.key)) return
  // Enter with nothing named, pressed twice, must not answer the next caller as well.
  const meant = field.text !== '' || event.key !== 'Enter'
  if (busy.value && event.key.length > 1 && !changing.has(event.key)) {
    event.preventDefault()
    if (meant) early.push(event)
    return
  }
  if (keys.press(event)) event.preventDefault()
}

/** Keys pressed while the exchange was still answering: what they mean is read from the picture after that. */
const early: KeyboardEvent[] = []
watch(busy, () => {
  while (!busy.value && early.length > 0) keys.press(early.shift()!)
}, { flush: 'post' })
</script>

<template>
  <section
    class="field"
    aria-label="Who is it for?"
  >
    <label for="who">{{ desk.carried ? `Carrying ${desk.otherName(desk.carried)} to…` : 'Who is it for?' }}</label>
    <input
      id="who"
      ref="input"
      :value="field.text"
      type="text"
      autocomplete="off"
      spellcheck="false"
      maxlength="100"
      role="combobox"
      aria-label="Who is it for?"
      aria-controls="answers"
      :aria-expanded="field.isSearching"
      aria-autocomplete="list"
      :aria-activedescendant="marked"
      aria-describedby="who-hint"
      @input="field.type(($event.target as HTMLInputElement).value)"
      @keydown="onKey"
    >
    <div
      id="who-hint"
      class="hint"
    >
      <FieldWays v-if="field.ways.length" />
      <el-button
        v-else-if="!field.isSearching && !field.slotMode && field.standing"
        class="do"
        :disabled="!live.working"
        @click="field.take(field.standing)"
      >
        <kbd>Enter</kbd> {{ field.standing.words }}
      </el-button>
      <template v-else-if="field.slotMode">
        <span><kbd>1</kbd>…<kbd>0</kbd> takes who waits in that slot, or parks the call in hand there. <kbd>Enter</kbd> parks in the first free one.</span>
      </template>
      <template v-else-if="field.isSearching">
        {{ field.hits.length ? 'That is you.' : field.wrongNumber ?? 'Nobody found. Try another part of the name, a department or a number.' }}
      </template>
      <template v-else>
        Name, department, role, what it is about, or a number
        <RedialMenu />
      </template>
      <el-button
        v-if="field.isSearching || field.slotMode || desk.carried"
        text
        @click="desk.carry(null); field.clear()"
      >
        <kbd>Esc</kbd> {{ desk.carried ? 'put down' : 'everybody' }}
      </el-button>
    </div>
    <p
      v-if="desk.notice"
      class="refused"
      role="alert"
    >
      {{ desk.notice }}
      <el-button
        text
        size="small"
        aria-label="Close the message"
        @click="desk.notice = null"
      >
        Close
      </el-button>
    </p>
  </section>
</template>

<style scoped>
.field {
  display: flex;
  flex-wrap: wrap;
  flex: none;
  align-items: center;
  gap: var(--space-3) var(--space-4);
  padding: var(--space-3) var(--space-4);
}

label {
  font: 700 var(--type-5) var(--font-sign);
}

input {
  flex: 1 1 12rem;
  max-width: 22rem;
  min-width: 0;
  padding: var(--space-2) var(--space-4);
  background: var(--lit);
  border: 2px solid var(--ink);
  border-radius: var(--round);
  font-size: var(--type-5);
}

.hint {
  display: flex;
  flex: 1 1 20rem;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-2) var(--space-3);
  min-width: 0;
  color: var(--ink-soft);
}

.hint > .el-button {
  margin: 0;
}

.hint :deep(.el-button kbd) {
  margin-right: var(--space-3);
}

.do {
  --el-button-bg-color: var(--paper-deep);
  max-width: 100%;
  height: auto;
  min-height: 2.25rem;
  line-height: 1.3;
  text-align: left;
  white-space: normal;
}

.refused {
  flex: 1 0 100%;
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: var(--space-2) var(--space-4);
  border-left: 4px solid var(--alarm);
  background: var(--sheet);
  font-size: var(--type-4);
}
</style>
