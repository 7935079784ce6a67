<script setup lang="ts">
import { type CompanyChange, thingOf } from '~~/core/company/changes'
import { peopleColumns, peopleOf, type PeopleRow } from '~~/core/company/people-table'
import { readTable } from '~~/core/formats/csv'
import { textOf } from '~~/core/formats/encoding'
import { useLive } from '~/stores/live'

useHead({ title: 'People from a file · Estafette' })

/** People from a table: what would become of each row is seen first; all of them are brought in, or nobody. */
const live = useLive()
const { failure, sending, send } = useForm()
const name = ref('')
const rows = ref<PeopleRow[]>([])
const done = ref('')
/** What the rows were made from: what somebody else changes meanwhile is not written over. */
let seen: CompanyChange[] = []
const mostRows = 2_000

async function look(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  rows.value = []
  done.value = ''
  if (!file) return
  await send({}, async () => {
    const table = readTable(textOf(new Uint8Array(await file.arrayBuffer())), mostRows)
    if ('fault' in table) throw new Error(table.fault)
    const company = live.company!
    const found = peopleOf(company, table, kind => `${kind}-${crypto.randomUUID()}`)
    if ('fault' in found) throw new Error(found.fault)
    name.value = file.name
    rows.value = found
    seen = found.flatMap(({ changes }) => changes.map(change => thingOf(company, change)))
  })
  input.value = ''
}
const changes = computed(() => rows.value.flatMap(row => row.changes))
const count = (verdict: PeopleRow['verdict']) => rows.value.filter(row => row.verdict === verdict).length

async function bringIn(): Promise<void> {
  if (!await send({}, async () => {
    await $fetch('/api/company', { method: 'PATCH', body: { seen, changes: changes.value } })
  })) return
  done.value = `${count('new')} new and ${count('changed')} changed. It can be undone under What was changed.`
  rows.value = []
}
</script>

<template>
  <div class="records-page">
    <h1>People from a file</h1>
    <p class="acts">
      <el-button @click="navigateTo('/company')">
        Back to the company
      </el-button>
    </p>
    <label for="people-file">
      A CSV file whose first row names its columns, of these: {{ peopleColumns.join(', ') }}. What would become of each row is shown first.
    </label>
    <input
      id="people-file"
      type="file"
      accept=".csv,text/csv"
      :disabled="sending"
      @change="look"
    >
    <FailureNote :text="failure" />
    <p
      v-if="done"
      class="done"
      role="status"
    >
      {{ done }}
    </p>
    <template v-if="rows.length">
      <p
        class="acts"
        role="status"
      >
        {{ name }}: {{ count('new') }} new, {{ count('changed') }} changed, {{ count('unchanged') }} unchanged, {{ count('refused') }} refused.
        <el-button
          type="primary"
          :loading="sending"
          :disabled="!changes.length"
          @click="bringIn"
        >
          Bring them in
        </el-button>
      </p>
      <RecordsTable
        :columns="['Row', 'Name', 'What becomes of it']"
        :rows="rows"
        :key-of="row => String(row.at)"
        :empty="null"
      >
        <template #default="{ row }">
          <td>{{ row.at }}</td>
          <td>{{ row.name }}</td>
          <td><strong>{{ row.verdict }}</strong>{{ row.why && `: ${row.why}` }}</td>
        </template>
      </RecordsTable>
    </template>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  gap: var(--space-4);
  align-items: center;
  padding-block: var(--space-4);
}

label {
  display: block;
  padding-bottom: var(--space-3);
}
</style>
