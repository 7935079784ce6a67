<script setup lang="ts">
import { longest } from '~~/shared/longest'
import { useShift } from '~/stores/shift'

/** Notes for whoever comes next, until somebody has done what they say. */
const shift = useShift()
const text = ref('')
const missing = ref<string>()
const open = computed(() => shift.said?.notes.filter(({ doneAt }) => doneAt === null) ?? [])
const done = computed(() => shift.said?.notes.filter(({ doneAt }) => doneAt !== null) ?? [])
const when = (at: number) => shownAt(at).format('D MMM H:mm')

async function add(): Promise<void> {
  missing.value = text.value.trim() ? undefined : t('shift.noteIsMissingSayWhat')
  if (!missing.value && await shift.send('notes', { text: text.value }, 'Noted')) text.value = ''
}
</script>

<template>
  <section aria-labelledby="shift-notes">
    <h3 id="shift-notes">
      {{ t('shift.notesForTheNext') }}
    </h3>
    <ul v-if="open.length">
      <li
        v-for="note in open"
        :key="note.id"
      >
        <span>{{ note.text }} <span class="soft">{{ note.byName }}, {{ when(note.at) }}</span></span>
        <el-button
          size="small"
          :aria-label="t('shift.doneText', { text: note.text })"
          @click="shift.send(`notes/${note.id}/done`, { done: true }, 'Done')"
        >
          {{ t('common.done') }}
        </el-button>
      </li>
    </ul>
    <p
      v-else
      class="soft"
    >
      {{ t('shift.noneWhatTheNextShift') }}
    </p>
    <form @submit.prevent="add">
      <FormField
        :label="t('shift.aNote')"
        for="shift-note"
        :error="missing"
      >
        <el-input
          id="shift-note"
          v-model="text"
          type="textarea"
          :rows="2"
          :maxlength="longest.shiftNote"
        />
      </FormField>
      <el-button native-type="submit">
        {{ t('shift.noteIt') }}
      </el-button>
    </form>
    <details v-if="done.length">
      <summary>{{ t('shift.doneLately') }}</summary>
      <ul>
        <li
          v-for="note in done"
          :key="note.id"
        >
          <span>{{ note.text }} <span class="soft">{{ t('shift.doneBy', { doneByName: note.doneByName!, when: when(note.doneAt!) }) }}</span></span>
          <el-button
            size="small"
            :aria-label="t('shift.openAgain', { text: note.text })"
            @click="shift.send(`notes/${note.id}/done`, { done: false }, 'Open again')"
          >
            {{ t('shift.openAgain2') }}
          </el-button>
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
li {
  display: flex;
  gap: var(--space-3);
  align-items: baseline;
  justify-content: space-between;
  padding: var(--space-2) 0;
  border-bottom: 1px solid var(--edge);
  overflow-wrap: anywhere;
}

form,
details {
  padding-top: var(--space-3);
}
</style>
