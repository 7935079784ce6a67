<script setup lang="ts">
import { longest } from '~~/shared/longest'
import { useDesk } from '~/stores/desk'
import { useNotes } from '~/stores/notes'

/** What one has noted about a person for oneself, with a day to be reminded of it. */
const props = defineProps<{ person: string, name: string }>()
const notes = useNotes()
const desk = useDesk()
const { failure, errors, sending, send } = useForm()
const text = ref('')
const remindOn = ref('')
const kept = computed(() => notes.of(props.person))
const changed = computed(() => text.value !== kept.value.text || remindOn.value !== (kept.value.remindOn ?? ''))
watch(kept, (note, before) => {
  // Whatever is being written stays when the notes come anew.
  if (before && before.person === note.person && (text.value !== before.text || remindOn.value !== (before.remindOn ?? ''))) return
  text.value = note.text
  remindOn.value = note.remindOn ?? ''
}, { immediate: true })

async function save(): Promise<void> {
  const note = { person: props.person, text: text.value.trim(), remindOn: remindOn.value || null }
  if (!await send({ text: t('panel.yourNote'), remindOn: t('panel.remindMeOn') }, () => notes.keep(note))) return
  text.value = note.text
  desk.say(t('panel.yourNoteAboutIsKept', { name: props.name }))
}
</script>

<template>
  <form
    class="own-note"
    @submit.prevent="save"
  >
    <label :for="`note-${person}`">{{ t('panel.yourNoteSeenByNobody') }}</label>
    <textarea
      :id="`note-${person}`"
      v-model="text"
      rows="2"
      :maxlength="longest.note"
      @keydown.ctrl.enter.prevent="save"
    />
    <p class="row">
      <label :for="`remind-${person}`">{{ t('panel.remindMeOn') }}</label>
      <input
        :id="`remind-${person}`"
        v-model="remindOn"
        type="date"
      >
      <el-button
        native-type="submit"
        size="small"
        :disabled="!changed"
        :loading="sending"
      >
        {{ t('panel.keep') }}
      </el-button>
    </p>
    <p
      v-for="sentence in [errors.text, errors.remindOn, failure].filter(Boolean)"
      :key="sentence!"
      class="wrong"
      role="alert"
    >
      {{ sentence }}
    </p>
  </form>
</template>

<style scoped>
.own-note {
  display: grid;
  gap: var(--space-2);
  padding-top: var(--space-4);
}

label {
  color: var(--ink-soft);
}

textarea,
input {
  padding: var(--space-2) var(--space-3);
  background: var(--lit);
  border: 1px solid var(--edge-strong);
  border-radius: var(--round);
  color: var(--lit-ink);
  font: inherit;
  resize: vertical;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  align-items: center;
}

.wrong {
  color: var(--alarm);
}
</style>
