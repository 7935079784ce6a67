<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'

const desk = useDesk()
const field = useField()
const live = useLive()
const ending = useEnding()
const input = useTemplateRef<HTMLInputElement>('input')

const marked = computed(() => field.isSearching && field.best ? `answer-${field.best.extension}` : undefined)

function focus(): void {
  input.value?.focus()
}
useTypingAnywhere(focus)
onMounted(focus)
// Whatever was done, the field is ready again.
watch(() => [desk.talking?.id, field.text === ''], () => {
  if (!document.activeElement || document.activeElement === document.body || document.activeElement.closest('.track, .floor')) focus()
}, { flush: 'post' })

const plainKeys: Record<string, () => void> = {
  Enter: () => void field.act(field.intent),
  ArrowDown: () => field.move(1),
  ArrowUp: () => field.move(-1),
  Escape: () => field.clear(),
}
/** Keys of the call in hand; they count only while nothing is typed. */
const callKeys: Record<string, () => void> = {
  ' ': holdOrTakeBack,
  'Delete': endInHand,
}

function onKey(event: KeyboardEvent): void {
  const act = plainKeys[event.key] ?? (field.text === '' ? callKeys[event.key] : undefined)
  if (!act || event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return
  event.preventDefault()
  // A key that is held down must not answer one call after the other.
  if (event.repeat && event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
  if (live.working || event.key === 'Escape') act()
}

function holdOrTakeBack(): void {
  if (desk.baton) void desk.ask({ service: 'holdCall', call: desk.baton.id })
  else if (!desk.talking && desk.held[0]) void desk.ask({ service: 'retrieveCall', call: desk.held[0].call.id })
}

function endInHand(): void {
  const ribbon = desk.inHand.find(candidate => candidate.call.id === desk.talking?.id)
  if (ribbon) ending.end(ribbon)
}
</script>

<template>
  <section
    class="field"
    aria-label="Who is it for?"
  >
    <label for="who">Who is it for?</label>
    <input
      id="who"
      ref="input"
      :value="field.text"
      type="text"
      autocomplete="off"
      spellcheck="false"
      maxlength="100"
      role="combobox"
      aria-controls="answers"
      :aria-expanded="field.isSearching"
      aria-autocomplete="list"
      :aria-activedescendant="marked"
      aria-describedby="who-hint"
      @input="field.type(($event.target as HTMLInputElement).value)"
      @keydown="onKey"
    >
    <p
      id="who-hint"
      class="hint"
    >
      <el-button
        v-if="field.intent"
        class="do"
        :disabled="!live.working"
        @click="field.act(field.intent)"
      >
        <kbd>Enter</kbd> {{ field.intent.words }}
      </el-button>
      <template v-else-if="field.isSearching">
        {{ field.hits.length ? 'That is you.' : 'Nobody found. Try another part of the name, a department or a number.' }}
      </template>
      <template v-else>
        Name, department, role, what it is about, or a number
      </template>
      <el-button
        v-if="field.isSearching"
        text
        @click="field.clear()"
      >
        <kbd>Esc</kbd> everybody
      </el-button>
    </p>
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
  flex: 1 1 14rem;
  max-width: 30rem;
  min-width: 0;
  padding: var(--space-2) var(--space-4);
  background: var(--lit);
  border: 2px solid var(--ink);
  border-radius: var(--round);
  font-size: var(--type-5);
}

.hint {
  color: var(--ink-soft);
}

.hint kbd {
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
