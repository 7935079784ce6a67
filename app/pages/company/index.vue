<script setup lang="ts">
import { type CompanyChange, idOf, type Part, thingOf } from '~~/core/company/changes'
import { leaving } from '~~/core/company/leaving'
import { lookUp } from '~~/core/company/lookups'
import { fold } from '~~/core/directory/folding'
import { besideOf, type FormField, partForms, settingsFields, titleOf } from '~/company/forms'
import { useLive } from '~/stores/live'

useHead({ title: 'Company · Estafette' })

/** The company as administrators run it: every part, what is in it, and beside that whatever is chosen, to be changed. */
const live = useLive()
const { failure, sending, send, clear } = useForm()

const company = computed(() => live.company)
type Chosen = Part | 'settings'
const part = ref<Chosen>('people')
const chosenId = ref<string | null>(null)
const text = ref('')
const done = ref('')

const all = computed(() => {
  const { value: now } = company
  const which = part.value
  if (!now || which === 'settings') return []
  return Object.keys(now[which]).map(id => ({ id, name: titleOf(now, which, id), beside: besideOf(now, which, id) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
})
const found = computed(() => {
  const wanted = fold(text.value.trim())
  return wanted === '' ? all.value : all.value.filter(({ name, beside }) => fold(`${name} ${beside}`).includes(wanted))
})
const fields = computed<readonly FormField[]>(() => part.value === 'settings' ? settingsFields : partForms[part.value].fields)

/** What takes the whole width of the form. */
const large = new Set<FormField['kind']>(['long', 'many', 'texts', 'week', 'holidays'])
/** What is being changed, as it is on the screen, and as it was when it was opened: what somebody else changes meanwhile is not written over. */
const form = ref<Record<string, unknown> | null>(null)
const seen = ref<CompanyChange | null>(null)
const isNew = computed(() => seen.value !== null && seen.value.value === null)
/** Of a new person: the extension that they get with it. */
const extension = ref('')
/** Who comes after somebody who leaves; empty: nobody. */
const successor = ref<string | null>(null)
const removing = ref(false)

function about(value: unknown, id: string): CompanyChange {
  return (part.value === 'settings' ? { part: 'settings', value } : { part: part.value, id, value }) as CompanyChange
}
function plain<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T
}

function open(id: string | null): void {
  clear()
  done.value = ''
  removing.value = false
  extension.value = ''
  successor.value = null
  chosenId.value = id
  const { value: now } = company
  if (!now) return
  if (part.value !== 'settings' && id === null) {
    form.value = null
    seen.value = null
    return
  }
  seen.value = plain(thingOf(now, about(null, id ?? '')))
  form.value = plain(seen.value.value) as Record<string, unknown> | null
}

function begin(): void {
  if (part.value === 'settings' || !company.value) return
  open(null)
  const blank = plain(partForms[part.value].blank(company.value)) as Record<string, unknown>
  seen.value = about(null, String(blank.id ?? ''))
  form.value = blank
}
watch(part, () => {
  text.value = ''
  open(null)
})
watch(() => company.value === undefined, () => open(chosenId.value))

const valueAt = (at: string) => at.split('.').reduce<unknown>((thing, name) => (thing as Record<string, unknown> | undefined)?.[name], form.value)
function setAt(at: string, value: unknown): void {
  const names = at.split('.')
  const last = names.pop()!
  const place = names.reduce<Record<string, unknown>>((thing, name) => thing[name] as Record<string, unknown>, form.value!)
  place[last] = value
}

async function carryOut(changes: CompanyChange[], words: string): Promise<void> {
  const now = company.value!
  const opened = seen.value!
  const before = changes.map(change =>
    change.part === opened.part && idOf(change) === idOf(opened) ? opened : thingOf(now, change))
  if (await send({}, async () => {
    await $fetch('/api/company', { method: 'PATCH', body: { seen: before, changes } })
  })) {
    open(null)
    done.value = words
  }
}

function save(): Promise<void> {
  const value = form.value!
  // A short number is known by itself.
  const id = part.value === 'shortNumbers' ? String(value.number) : String(value.id ?? '')
  if (part.value === 'shortNumbers' && isNew.value) seen.value = about(null, id)
  const changes = [about(value, id)]
  if (part.value === 'people' && isNew.value && extension.value.trim() !== '') {
    const telephone = { ...partForms.telephones.blank(company.value!), person: id, number: extension.value.trim(), pickupGroup: String(value.department) }
    changes.push({ part: 'telephones', id: telephone.id, value: telephone })
  }
  return carryOut(changes, isNew.value ? 'Added.' : 'Changed, everywhere.')
}

function remove(): Promise<void> {
  const id = chosenId.value!
  const changes = part.value === 'people' ? leaving(company.value!, id, successor.value || null) : [about(null, id)]
  return carryOut(changes, 'Removed.')
}
const people = computed(() => company.value
  ? Object.keys(company.value.people).filter(id => id !== chosenId.value)
      .map(id => ({ value: id, label: titleOf(company.value!, 'people', id) })).sort((a, b) => a.label.localeCompare(b.label))
  : [])
const heading = computed(() => part.value === 'settings'
  ? 'Settings'
  : isNew.value
    ? `New ${partForms[part.value].one}`
    : company.value && chosenId.value ? titleOf(company.value, part.value, chosenId.value) : '')
const isGone = computed(() => part.value !== 'settings' && chosenId.value !== null && company.value !== undefined
  && lookUp(company.value[part.value] as Record<string, object>, chosenId.value) === undefined)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Company</h1>
      <el-select
        v-model="part"
        class="choice"
        aria-label="Which part"
      >
        <el-option
          v-for="(of, name) in partForms"
          :key="name"
          :value="name"
          :label="of.title"
        />
        <el-option
          value="settings"
          label="Settings"
        />
      </el-select>
      <template v-if="part !== 'settings'">
        <el-input
          v-model="text"
          class="wide"
          clearable
          placeholder="Name, number"
          aria-label="Filter by name or number"
        />
        <el-button @click="begin">
          New {{ partForms[part].one }}…
        </el-button>
      </template>
      <el-button
        v-else-if="!form"
        @click="open('')"
      >
        Change the settings…
      </el-button>
      <el-button
        v-if="part === 'people'"
        @click="navigateTo('/company/people')"
      >
        From a file…
      </el-button>
      <el-button @click="navigateTo('/company/changes')">
        What was changed
      </el-button>
      <el-button @click="navigateTo('/company/file')">
        Company file
      </el-button>
    </div>
    <p
      v-if="done"
      class="done"
      role="status"
    >
      {{ done }}
    </p>
    <div class="panes wide-form">
      <div class="list">
        <RecordsTable
          v-if="part !== 'settings'"
          :columns="['Name', '-Beside it']"
          :rows="found"
          :key-of="row => row.id"
          :empty="company ? 'Nothing like that.' : null"
          :class-of="row => row.id === chosenId ? 'chosen' : undefined"
        >
          <template #default="{ row }">
            <td>
              <button
                type="button"
                class="choose"
                :aria-pressed="row.id === chosenId"
                @click="open(row.id)"
              >
                {{ row.name }}
              </button>
            </td>
            <td>{{ row.beside }}</td>
          </template>
        </RecordsTable>
      </div>
      <aside
        class="details"
        aria-label="What is chosen"
      >
        <el-form
          v-if="form && company"
          label-position="top"
          @submit.prevent="save"
        >
          <h2>{{ heading }}</h2>
          <p
            v-if="isGone && !isNew"
            class="failure"
            role="alert"
          >
            It has been removed meanwhile.
          </p>
          <div class="fields">
            <el-form-item
              v-for="field in fields"
              :key="`${part} ${chosenId} ${field.at}`"
              :class="{ whole: large.has(field.kind) }"
              :label="field.kind === 'check' ? '' : field.label"
              :for="`field-${field.at}`"
            >
              <CompanyField
                :id="`field-${field.at}`"
                :field="field"
                :company="company"
                :zone="String(form.zone ?? company.settings.zone)"
                :model-value="valueAt(field.at)"
                @update:model-value="setAt(field.at, $event)"
              />
            </el-form-item>
            <el-form-item
              v-if="part === 'people' && isNew"
              label="Extension; empty: no telephone"
              for="field-extension"
            >
              <el-input
                id="field-extension"
                v-model="extension"
              />
            </el-form-item>
          </div>
          <FailureNote :text="failure" />
          <p class="acts">
            <el-button
              type="primary"
              native-type="submit"
              :loading="sending"
            >
              {{ isNew ? 'Add' : 'Save' }}
            </el-button>
            <el-button @click="open(null)">
              Cancel
            </el-button>
            <el-button
              v-if="!isNew && part !== 'settings' && !removing"
              @click="removing = true"
            >
              Remove…
            </el-button>
          </p>
          <div v-if="removing">
            <el-form-item
              v-if="part === 'people'"
              label="Their telephones go to; empty: they go too"
              for="field-successor"
            >
              <el-select-v2
                id="field-successor"
                v-model="successor"
                :options="people"
                filterable
                clearable
                placeholder=" "
                aria-label="Successor"
              />
            </el-form-item>
            <el-button
              type="danger"
              :loading="sending"
              @click="remove"
            >
              Remove {{ heading }}
            </el-button>
          </div>
        </el-form>
        <p
          v-else
          class="soft"
        >
          Choose something to change it. What is changed holds at once, on every console and in the exchange; nobody is cut off.
        </p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.wide {
  width: 14rem;
}

.choice {
  width: 13rem;
}

.bar .el-button {
  margin: 0;
}

.panes.wide-form {
  grid-template-columns: minmax(0, 1fr) minmax(0, 38rem);
}

.fields {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--space-4);
  padding-top: var(--space-4);
}

.fields .whole {
  grid-column: 1 / 3;
}

.details .el-form-item {
  margin-bottom: var(--space-4);
}

@media (max-width: 60rem) {
  .panes.wide-form,
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }

  .fields .whole {
    grid-column: auto;
  }
}

.acts {
  position: sticky;
  bottom: 0;
  z-index: 1;
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
  padding-block: var(--space-3);
  background: var(--sheet);
}
</style>
