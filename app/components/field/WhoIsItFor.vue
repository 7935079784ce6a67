<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useField } from '~/stores/field'
import { useLikely } from '~/stores/likely'
import { useLive } from '~/stores/live'
import { useWays } from '~/stores/ways'

const desk = useDesk()
const field = useField()
const live = useLive()
const keys = useHandKeys()
const ways = useWays()
const likely = useLikely()
const dialogs = useDialogs()
/** Names are spoken by who has seen everybody. */
const isLater = ref(false)
void later(async () => {
  await fetchAllWords()
  isLater.value = true
})
const input = useTemplateRef<HTMLInputElement>('input')

/** Why Enter does nothing with what has been typed. */
const nothingThere = computed(() => {
  if (field.looking) return t('field.looking')
  if (field.isGone) return t('field.notHereAnyMoreSentence')
  return field.hits.length > 0 ? t('field.thatIsYou') : field.wrongNumber ?? t('field.nobodyFoundTryAnotherPart')
})
const marked = computed(() => field.isSearching && field.best ? `answer-${field.best.id}` : undefined)
const asking = computed(() => desk.asking || field.taking)
const take = useTypeAhead(asking, keys.press)

function focus(): void {
  input.value?.focus()
}
useTypingAnywhere((event) => {
  focus()
  onKey(event)
})
/** Keys that tell what is known, also while it can't be changed. */
const tellingKeys = new Set(['?', ',', '.', ':'])
/** Keys that a button has a meaning for itself. */
const ofButtons = new Set(['Enter', ' ', 'Tab', 'ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'Escape'])
// A key that belongs to nothing on the page is for the field as well, and so is one that means nothing to the button that has the focus.
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  const { target, key } = event
  if (event.defaultPrevented || key.length === 1 || key === 'Tab') return
  const onButton = target instanceof HTMLButtonElement && !target.closest('[role="dialog"], [role="menu"]') && !ofButtons.has(key)
  if (target !== document.body && !onButton) return
  if (!onButton) focus()
  onKey(event)
})
onMounted(focus)
// Whatever was done, the field is ready again.
watch(() => [desk.talking?.id, field.text === '', desk.carried?.id], () => {
  if (!document.activeElement || document.activeElement === document.body || document.activeElement.closest('.track, .floor, .shelf, .panel')) focus()
}, { flush: 'post' })

function onKey(event: KeyboardEvent): void {
  if (event.metaKey || event.altKey || event.isComposing) return
  // What is typed behind the key that opened a dialog is not for whoever is named here.
  if (dialogs.isOpen) return event.preventDefault()
  // A key that is held down must not answer one call after the other, and Backspace that empties the field must not go on to the calls.
  if (event.repeat && !movingKeys.has(event.key) && (field.text === '' || event.key === 'Enter')) {
    event.preventDefault()
    return
  }
  if (!live.working && !movingKeys.has(event.key) && !(tellingKeys.has(event.key) && field.text === '')) return
  if (take(event)) event.preventDefault()
}
</script>

<template>
  <section
    class="field"
    :aria-label="t('field.whoIsItFor')"
  >
    <label for="who">{{ desk.carried ? t('field.carryingTo', { name: desk.otherName(desk.carried) }) : t('field.whoIsItFor') }}</label>
    <input
      id="who"
      ref="input"
      :value="field.text"
      type="text"
      autocomplete="off"
      spellcheck="false"
      maxlength="100"
      role="combobox"
      :aria-label="t('field.whoIsItFor')"
      aria-controls="answers"
      :aria-expanded="field.isSearching"
      aria-autocomplete="list"
      :aria-activedescendant="marked"
      aria-describedby="who-hint"
      @input="field.type(($event.target as HTMLInputElement).value)"
      @keydown="onKey"
    >
    <LazySpokenName
      v-if="isLater"
      @said="focus"
    />
    <!-- Escape empties the field from its ways as well. -->
    <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -->
    <div
      id="who-hint"
      class="hint"
      @keydown.esc="field.empty(); focus()"
    >
      <FieldWays v-if="field.ways.length" />
      <el-button
        v-else-if="!field.isSearching && !field.slotMode && field.standing && !ways.missed"
        class="first"
        :disabled="!live.working"
        @click="field.take(field.standing)"
      >
        <kbd>{{ t('field.enter') }}</kbd> {{ field.standing.words }}
      </el-button>
      <p
        v-else
        :class="['tip', { beside: likely.destinations.length }]"
      >
        <template v-if="ways.missed && !field.isSearching">
          {{ t('field.hasGone', { missed: ways.missed }) }}
        </template>
        <template v-else-if="field.slotMode === 'take'">
          <kbd>1</kbd>…<kbd>0</kbd> {{ t('field.takesWhoWaitsInThat') }}
        </template>
        <template v-else-if="field.slotMode === 'park'">
          <kbd>1</kbd>…<kbd>0</kbd> {{ t('field.parksTheCallInHand') }} <kbd>⏎</kbd> {{ t('field.inTheFirstFreeOne') }}
        </template>
        <template v-else-if="field.isSearching">
          {{ nothingThere }}
        </template>
        <template v-else>
          {{ t('field.nameDepartmentRoleWhatIt') }}
        </template>
      </p>
      <LikelyWays v-if="!field.isSearching && !field.slotMode && likely.destinations.length" />
    </div>
    <div class="tail">
      <RedialMenu />
      <el-button
        text
        :disabled="!(field.isSearching || field.slotMode || desk.carried)"
        @click="desk.carry(null); field.clear()"
      >
        <kbd>{{ t('common.esc') }}</kbd>&nbsp;{{ desk.carried ? t('field.putDown') : t('field.everybody') }}
      </el-button>
    </div>
    <RefusalSlip />
  </section>
</template>

<style scoped>
.field {
  position: relative;
  display: grid;
  flex: none;
  grid-template: auto auto / 19rem minmax(0, 1fr) auto;
  gap: 0 var(--space-4);
  align-content: center;
  height: var(--field);
  padding: 0 var(--space-4);
}

label {
  overflow: hidden;
  font: 700 var(--type-3)/1.2 var(--font-sign);
  text-overflow: ellipsis;
  white-space: nowrap;
}

input {
  grid-row: 2;
  min-width: 0;
  height: 2.25rem;
  padding: 0 var(--space-4);
  grid-column: 1;
  background: var(--lit);
  border: 2px solid var(--ink);
  border-radius: var(--round);
  font-size: var(--type-5);
}

.field:has(.say) input {
  padding-right: 6.75rem;
}

.hint {
  display: grid;
  grid-row: 1 / 3;
  grid-template-columns: 15rem minmax(0, 1fr);
  gap: var(--space-3);
  align-items: center;
  height: 3.5rem;
  min-width: 0;
  overflow: hidden;
  color: var(--ink-soft);
}

.tip {
  grid-column: 1 / 3;
}

.tip.beside {
  grid-column: 1;
}

.hint :deep(.first) {
  --el-button-bg-color: var(--paper-deep);
  justify-content: flex-start;
  width: 100%;
  height: 100%;
  margin: 0;
  padding: 0 var(--space-3);
  overflow: hidden;
  line-height: 1.2;
  text-align: left;
  white-space: normal;
}

.hint :deep(.first > span) {
  display: block;
  overflow-wrap: anywhere;
}

.tail {
  display: grid;
  grid-row: 1 / 3;
  align-content: center;
}

.tail :deep(.el-button) {
  justify-content: flex-end;
  height: 1.625rem;
  margin: 0;
  padding: 0 var(--space-3);
}

@media (max-width: 60rem) {
  .field {
    grid-template: auto auto / minmax(0, 1fr) auto;
    gap: var(--space-1) var(--space-3);
    height: auto;
    padding: var(--space-1) var(--space-3);
  }

  .hint {
    grid-row: 3;
    grid-column: 1 / 3;
    grid-template-columns: minmax(0, 1fr);
    height: auto;
    min-height: 2.25rem;
  }

  .tip {
    grid-column: 1;
  }
}
</style>
