<script setup lang="ts">
import type { Part } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { completed } from '~~/core/company/completed'
import type { CompanyFileAnswer } from '~~/shared/company-edits'
import { inWords, jsonFault } from '~/company/file-faults'
import { partForms } from '~/company/forms'
import { useLive } from '~/stores/live'

useHead({ title: t('company.companyFileEstafette') })

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
    if (chosen.size > largest) throw new NotTaken(t('company.theFileIsLargerThanMb', { n: largest / 1_000_000 }))
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
  return [...counts].map(([part, count]) => ({ part, title: part === 'settings' ? t('company.settings') : t(partForms[part as Part].title), ...count }))
})
</script>

<template>
  <div class="records-page">
    <h1>{{ t('company.companyFile') }}</h1>
    <p class="button-row">
      <el-button @click="navigateTo('/company')">
        {{ t('company.backToTheCompany') }}
      </el-button>
      <el-button
        tag="a"
        href="/api/company/file"
        download
      >
        {{ t('company.giveOutTheCompanyAs') }}
      </el-button>
      <el-button
        tag="a"
        href="/api/company/schema"
        download="company.schema.json"
      >
        {{ t('company.itsSchema') }}
      </el-button>
    </p>
    <label for="company-file">{{ t('company.aCompanyFileInThe') }}</label>
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
        {{ t('company.theCompanyAsItIs') }}
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
        <p>{{ t('company.cantBeTakenOverNothing', { name }) }}</p>
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
        {{ t('company.isTheCompanyNowIt', { name }) }}
      </p>
      <p
        v-else-if="!answer.changes.length"
        role="status"
      >
        {{ t('company.isTheCompanyAsIt', { name }) }}
      </p>
      <template v-else>
        <RecordsTable
          :columns="[t('company.part'), t('company.new'), t('company.changed'), t('company.removed2')]"
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
            {{ t('company.takeOver', { name }) }}
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
