<script setup lang="ts">
import { type CompanyChange, thingOf } from '~~/core/company/changes'
import { guessedPeople, type Meaning, peopleOf, type PeopleRow } from '~~/core/company/people-table'
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
async function look(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  rows.value = []
  table.value = null
  if (!file) return
  await send({}, async () => {
    const read = readTable(textOf(new Uint8Array(await file.arrayBuffer())), mostRows)
    if ('fault' in read) throw new NotTaken(say(read.fault))
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
  if ('fault' in found) throw new NotTaken(say(found.fault))
  rows.value = found
  seen = found.flatMap(({ changes }) => changes.map(change => thingOf(live.company!, change)))
}), { deep: true })

const changes = computed(() => rows.value.flatMap(row => row.changes))
const count = (verdict: PeopleRow['verdict']) => rows.value.filter(row => row.verdict === verdict).length
const columns = computed(() => table.value!.columns.map((name, at) => ({
  name, sample: table.value!.rows.slice(0, 20).map(row => row[at]).filter(Boolean).slice(0, 2).join(', '),
})))

async function bringIn(): Promise<void> {
  if (!await send({}, async () => {
    await editCompany(live.company!, changes.value, seen)
  })) return
  emit('done', t('files.broughtIn', { added: count('new'), changed: count('changed') }))
  rows.value = []
  table.value = null
}
</script>

<template>
  <section :aria-label="t('company.peopleFromAFile')">
    <label for="people-file">{{ t('company.aTableFromAnyProgram') }}</label>
    <input
      id="people-file"
      type="file"
      accept=".csv,.txt,text/csv"
      :disabled="sending"
      @change="look"
    >
    <FailureNote :text="failure" />
    <template v-if="table">
      <PeopleColumns
        v-model="as"
        :legend="t('company.whatTheColumnsHoldGuessed')"
        :columns="columns"
      />
      <el-checkbox
        v-model="numbered"
        :label="t('company.whoeverHasNoExtensionGets', { firstExtension: live.company!.settings.firstExtension })"
      />
      <PeopleRows
        :from="name"
        :each="t('common.line')"
        :rows="rows"
      >
        <el-button
          type="primary"
          :loading="sending"
          :disabled="!changes.length"
          @click="bringIn"
        >
          {{ t('company.bringThemIn') }}
        </el-button>
      </PeopleRows>
    </template>
  </section>
</template>

<style scoped>
label {
  display: block;
  padding-bottom: var(--space-3);
}
</style>
