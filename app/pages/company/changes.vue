<script setup lang="ts">
import type { Part } from '~~/core/company/changes'
import type { RecordedChange } from '~~/shared/company-edits'
import { fieldsOf, partForms, titleOf, wordsOf } from '~/company/forms'
import { useLive } from '~/stores/live'

useHead({ title: t('company.whatWasChangedEstafette') })

/** Who has changed what of the company, from what to what; undone where it is safe. */
const live = useLive()
const rows = ref<RecordedChange[] | null>(null)
const failure = ref<string | null>(null)
const done = ref('')
const all = ref(true)

/** Earlier ones are on the screen: whoever reads them is left in peace. */
let reading = false
let asked = 0

async function load(more = false): Promise<void> {
  const mine = ++asked
  reading = more
  try {
    const before = more ? rows.value?.at(-1)?.id ?? 0 : 0
    const next = await $fetch<RecordedChange[]>('/api/company/edits', { query: { before } })
    // An answer to an older question says nothing about this one.
    if (mine !== asked) return
    rows.value = more ? [...rows.value ?? [], ...next] : next
    all.value = next.length < 100
    failure.value = null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}
onMounted(() => load())
watch(() => live.company?.version, () => {
  if (!reading) void load()
})

function nameOf({ part, thing, before, after }: RecordedChange): string {
  if (part === 'settings') return t('company.settings')
  const { company } = live
  const known = company ? titleOf(company, part as Part, thing) : thing
  if (known !== thing) return known
  const said = JSON.parse(after || before || '{}') as { name?: string, first?: string, last?: string, number?: string }
  return said.name || `${said.first ?? ''} ${said.last ?? ''}`.trim() || said.number || thing
}

/** The fields that differ, each in the words of its form with what it was and what it is. */
function differences({ part, before, after }: RecordedChange): string[] {
  if (before === '') return ['added']
  if (after === '') return ['removed']
  const [was, is] = [before, after].map(text => JSON.parse(text) as Record<string, unknown>) as [Record<string, unknown>, Record<string, unknown>]
  const { company } = live
  const at = (thing: unknown, where: string) => where.split('.').reduce((of, name) => (of as Record<string, unknown> | undefined)?.[name], thing)
  const short = (text: string) => text.length > 80 ? `${text.slice(0, 80)}…` : text
  if (!company) return []
  return fieldsOf(part as Part | 'settings').flatMap((field) => {
    const [old, now] = [at(was, field.at), at(is, field.at)]
    if (JSON.stringify(old) === JSON.stringify(now)) return []
    const said = (value: unknown) => short(wordsOf(company, field, value))
    return [`${t(field.label)}: ${said(old)} → ${said(now)}`]
  })
}

async function undo({ edit }: RecordedChange): Promise<void> {
  done.value = ''
  try {
    await $fetch(`/api/company/edits/${edit}/undo`, { method: 'POST', body: {} })
    done.value = t('company.undone')
    await load()
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}
</script>

<template>
  <div class="records-page">
    <h1>{{ t('common.whatWasChanged') }}</h1>
    <p class="acts">
      <el-button @click="navigateTo('/company')">
        {{ t('company.backToTheCompany') }}
      </el-button>
    </p>
    <FailureNote :text="failure" />
    <p
      v-if="done"
      class="done"
      role="status"
    >
      {{ done }}
    </p>
    <RecordsTable
      :columns="[t('common.when'), t('common.by'), t('common.what'), t('company.fromWhatToWhat'), `-${t('company.undo')}`]"
      :rows="rows ?? []"
      :key-of="row => String(row.id)"
      :empty="rows ? t('company.nothingHasBeenChangedYet') : null"
    >
      <template #default="{ row }">
        <td>{{ shownAt(row.at).format('D MMM H:mm:ss') }}</td>
        <td>{{ row.by }}</td>
        <td>
          <strong>{{ nameOf(row) }}</strong>
          <span class="soft">{{ row.part === 'settings' ? '' : ` ${t(partForms[row.part as Part].one)}` }}</span>
        </td>
        <td>
          <span
            v-for="difference in differences(row)"
            :key="difference"
            class="difference"
          >{{ difference }}</span>
        </td>
        <td class="acts">
          <el-button
            v-if="rows?.find(one => one.edit === row.edit)?.id === row.id"
            size="small"
            :aria-label="t('company.undoNameDifferences', { name: nameOf(row), differences: differences(row)[0] ?? t('company.inItsOrder') })"
            @click="undo(row)"
          >
            {{ t('company.undo2') }}
          </el-button>
        </td>
      </template>
    </RecordsTable>
    <p
      v-if="!all"
      class="more"
    >
      <el-button
        size="small"
        @click="load(true)"
      >
        {{ t('company.earlierOnes') }}
      </el-button>
    </p>
  </div>
</template>

<style scoped>
.difference {
  display: block;
  overflow-wrap: anywhere;
}

.more,
p.acts {
  padding-bottom: var(--space-4);
}
</style>
