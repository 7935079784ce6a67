<script setup lang="ts">
import { type CompanyChange, thingOf } from '~~/core/company/changes'
import { guessedPeople, type Meaning, meanings, peopleOf, type PeopleRow } from '~~/core/company/people-table'
import { readTable, type Table } from '~~/core/formats/csv'
import { textOf } from '~~/core/formats/encoding'
import { editCompany } from '~/company/edit'
import { newId } from '~/company/forms'
import { useLive } from '~/stores/live'

/** People from a table: what its columns hold is guessed, what would become of each row is seen first; then all of them are brought in, or nobody. */
const emit = defineEmits<{ done: [words: string] }>()
const live = useLive()
const { failure, sending, send } = useForm()
const name = ref('')
const table = shallowRef<Table | null>(null)
const as = ref<Meaning[]>([])
const numbered = ref(true)
const rows = ref<PeopleRow[]>([])
/** What the rows were made from: what somebody else changes meanwhile is not written over. */
let seen: CompanyChange[] = []
const mostRows = 2_000
const words: Record<Meaning, string> = {
  nothing: 'nothing of use', first: 'first name', last: 'last name', name: 'whole name', department: 'department', role: 'role', room: 'room',
  extension: 'extension', direct: 'direct number', mobile: 'mobile', nickname: 'what they are called', languages: 'languages', note: 'note',
}

async function look(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  rows.value = []
  table.value = null
  if (!file) return
  await send({}, async () => {
    const read = readTable(textOf(new Uint8Array(await file.arrayBuffer())), mostRows)
    if ('fault' in read) throw new NotTaken(read.fault)
    name.value = file.name
    as.value = guessedPeople(read, live.company!.settings)
    table.value = read
  })
  input.value = ''
}

/** Looked at again whenever a column is said to hold something else. */
watch([table, as, numbered], () => void send({}, async () => {
  if (!table.value) return
  const found = peopleOf(live.company!, table.value, { as: as.value, newId, numbered: numbered.value })
  if ('fault' in found) throw new NotTaken(found.fault)
  rows.value = found
  seen = found.flatMap(({ changes }) => changes.map(change => thingOf(live.company!, change)))
}), { deep: true })

const changes = computed(() => rows.value.flatMap(row => row.changes))
const count = (verdict: PeopleRow['verdict']) => rows.value.filter(row => row.verdict === verdict).length
const shown = ref<PeopleRow['verdict'] | 'all'>('all')
const found = computed(() => shown.value === 'all' ? rows.value : rows.value.filter(({ verdict }) => verdict === shown.value))
const sample = (at: number) => table.value!.rows.slice(0, 20).map(row => row[at]).filter(Boolean).slice(0, 2).join(', ') || 'empty'

async function bringIn(): Promise<void> {
  if (!await send({}, async () => {
    await editCompany(live.company!, changes.value, seen)
  })) return
  emit('done', `${count('new')} new and ${count('changed')} changed. It can be undone under What was changed.`)
  rows.value = []
  table.value = null
}
</script>

<template>
  <section aria-label="People from a file">
    <label for="people-file">A table from any program, saved as CSV: its first row names its columns. What would become of each row is shown first.</label>
    <input
      id="people-file"
      type="file"
      accept=".csv,.txt,text/csv"
      :disabled="sending"
      @change="look"
    >
    <FailureNote :text="failure" />
    <template v-if="table">
      <fieldset class="columns">
        <legend>What the columns hold: guessed from their names</legend>
        <div
          v-for="(column, at) in table.columns"
          :key="at"
          class="column"
        >
          <span class="named">{{ column || `Column ${at + 1}` }}</span>
          <span class="soft">{{ sample(at) }}</span>
          <el-select
            v-model="as[at]"
            size="small"
            :aria-label="`What ${column || `column ${at + 1}`} holds`"
          >
            <el-option
              v-for="meaning in meanings"
              :key="meaning"
              :value="meaning"
              :label="words[meaning]"
            />
          </el-select>
        </div>
      </fieldset>
      <el-checkbox
        v-model="numbered"
        :label="`Whoever has no extension gets the next one that is free, from ${live.company!.settings.firstExtension} on`"
      />
      <p class="acts">
        <span>{{ name }}: {{ count('new') }} new, {{ count('changed') }} changed, {{ count('unchanged') }} as they are, {{ count('refused') }} refused.</span>
        <el-button
          type="primary"
          :loading="sending"
          :disabled="!changes.length"
          @click="bringIn"
        >
          Bring them in
        </el-button>
        <el-radio-group
          v-model="shown"
          size="small"
          aria-label="Which rows"
        >
          <el-radio-button
            v-for="(which, at) in (['all', 'new', 'changed', 'refused'] as const)"
            :key="at"
            :value="which"
          >
            {{ which }}
          </el-radio-button>
        </el-radio-group>
      </p>
      <RecordsTable
        :columns="['Line', 'Name', 'What becomes of it']"
        :rows="found"
        :key-of="row => String(row.at)"
        empty="None."
      >
        <template #default="{ row }">
          <td>{{ row.at }}</td>
          <td>{{ row.name }}</td>
          <td><strong>{{ row.verdict }}</strong>{{ row.why && `: ${row.why}` }}</td>
        </template>
      </RecordsTable>
    </template>
  </section>
</template>

<style scoped>
label {
  display: block;
  padding-bottom: var(--space-3);
}

.columns {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  padding: var(--space-4) 0;
  margin: 0;
  border: 0;
}

.columns legend {
  padding: 0;
  color: var(--ink-soft);
}

.column {
  display: grid;
  gap: var(--space-2);
  width: 11rem;
}

.named {
  font-weight: 700;
  overflow-wrap: anywhere;
}

.soft {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  align-items: center;
  padding-block: var(--space-4);
}
</style>
