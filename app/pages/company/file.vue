<script setup lang="ts">
import type { Part } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { completed } from '~~/core/company/completed'
import type { CompanyFileAnswer } from '~~/shared/company-edits'
import { inWords, jsonFault } from '~/company/file-faults'
import { partForms } from '~/company/forms'
import { useLive } from '~/stores/live'

useHead({ title: 'Company file · Estafette' })

/** The whole company in one file: out, to move or keep it; in, after a look at what it would change. All of it, or nothing. */
const live = useLive()
const { failure, sending, send } = useForm()
const file = ref<unknown>(null)
const name = ref('')
const answer = ref<CompanyFileAnswer | null>(null)
const largest = 3_000_000

async function look(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [chosen] = input.files ?? []
  answer.value = null
  if (!chosen) return
  await send({}, async () => {
    if (chosen.size > largest) throw new NotTaken(`The file is larger than ${largest / 1_000_000} MB.`)
    name.value = chosen.name
    const text = await chosen.text()
    try {
      file.value = JSON.parse(text)
    }
    catch {
      throw new NotTaken(jsonFault(text))
    }
    // Things that an earlier version gave out lack what is known since; a part that is missing is not made up: it would be taken for one that is empty.
    const given = file.value as { formatVersion?: unknown, company?: Company } | null
    if (given?.formatVersion === 1 && typeof given.company === 'object' && given.company) {
      const whole = completed(given.company)
      file.value = { ...given, company: Object.fromEntries(Object.keys(given.company).map(part => [part, whole[part as keyof Company]])) }
    }
    try {
      answer.value = await $fetch<CompanyFileAnswer>('/api/company/file', { method: 'POST', body: { carryOut: false, file: file.value } })
    }
    catch (error) {
      throw isUnknown(error) ? error : new NotTaken(inWords(sentenceOf(error), file.value))
    }
  })
  input.value = ''
}

async function carryOut(): Promise<void> {
  await send({}, async () => {
    answer.value = await $fetch<CompanyFileAnswer>('/api/company/file', { method: 'POST', body: { carryOut: true, file: file.value } })
  })
}
const byPart = computed(() => {
  const counts = new Map<string, { new: number, changed: number, removed: number }>()
  for (const { part, what } of answer.value?.changes ?? []) {
    const count = counts.get(part) ?? { new: 0, changed: 0, removed: 0 }
    count[what]++
    counts.set(part, count)
  }
  return [...counts].map(([part, count]) => ({ part, title: part === 'settings' ? 'Settings' : partForms[part as Part].title, ...count }))
})
</script>

<template>
  <div class="records-page">
    <h1>Company file</h1>
    <p class="button-row">
      <el-button @click="navigateTo('/company')">
        Back to the company
      </el-button>
      <el-button
        tag="a"
        href="/api/company/file"
        download
      >
        Give out the company as JSON
      </el-button>
      <el-button
        tag="a"
        href="/api/company/schema"
        download="company.schema.json"
      >
        Its schema
      </el-button>
    </p>
    <label for="company-file">A company file in the place of this company. What it would change is shown first:</label>
    <input
      id="company-file"
      type="file"
      accept=".json,application/json"
      :disabled="sending"
      @change="look"
    >
    <FailureNote :text="failure" />
    <section
      v-if="!answer && live.company"
      class="now"
      aria-labelledby="now"
    >
      <h2 id="now">
        The company as it is
      </h2>
      <CompanyParts
        :company="live.company"
        @choose="part => navigateTo({ path: '/company', query: { part } })"
      />
    </section>
    <template v-if="answer">
      <div
        v-if="answer.faults.length"
        class="failure"
        role="alert"
      >
        <p>{{ name }} can't be taken over. Nothing was changed.</p>
        <ul>
          <li
            v-for="fault in answer.faults.slice(0, 20)"
            :key="fault"
          >
            {{ fault }}
          </li>
        </ul>
      </div>
      <p
        v-else-if="answer.edit"
        class="done"
        role="status"
      >
        {{ name }} is the company now. It can be undone under What was changed.
      </p>
      <p
        v-else-if="!answer.changes.length"
        role="status"
      >
        {{ name }} is the company as it is: nothing would change.
      </p>
      <template v-else>
        <RecordsTable
          :columns="['Part', 'New', 'Changed', 'Removed']"
          :rows="byPart"
          :key-of="row => row.part"
          :empty="null"
        >
          <template #default="{ row }">
            <td>{{ row.title }}</td>
            <td>{{ row.new }}</td>
            <td>{{ row.changed }}</td>
            <td>{{ row.removed }}</td>
          </template>
        </RecordsTable>
        <p class="button-row">
          <el-button
            type="primary"
            :loading="sending"
            @click="carryOut"
          >
            Take {{ name }} over
          </el-button>
        </p>
      </template>
    </template>
  </div>
</template>

<style scoped>
label {
  display: block;
  padding-bottom: var(--space-3);
}

.now {
  max-width: 38rem;
  padding: var(--space-4) var(--space-5);
  margin-top: var(--space-5);
  background: var(--sheet);
}
</style>
