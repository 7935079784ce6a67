<script setup lang="ts">
import { ValidationError } from 'yup'
import { type CompanyChange, type Part, thingOf } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { leaving } from '~~/core/company/leaving'
import { lookUp } from '~~/core/company/lookups'
import { editCompany } from '~/company/edit'
import { fieldsOf, type FormField, partForms, titleOf, wordsOf } from '~/company/forms'

/** One thing of the company, or its settings, to be changed; `id` null: a new one. What is opened stays the same: another one is another form. */
const { company, part, id } = defineProps<{ company: Company, part: Part | 'settings', id: string | null }>()
const emit = defineEmits<{ done: [words: string], close: [] }>()
const { failure, errors, sending, send } = useForm()

const isNew = part !== 'settings' && id === null
const { ownedAt } = useOwned(part, id)
const all = fieldsOf(part)
const fields = computed(() => all.filter(({ when }) => when === undefined || valueAt(when.at) === when.is))
const labels = Object.fromEntries(all.map(({ at, label }) => [at, t(label)]))
/** What stands in a field and can't be understood, by the field. */
const unread = reactive(new Map<string, string>())
/** What takes the whole width of the form. */
const large = new Set<FormField['kind']>(['long', 'many', 'texts', 'week', 'holidays', 'greetings', 'skills', 'tone'])

function about(value: unknown, id: string): CompanyChange {
  return (part === 'settings' ? { part, value } : { part, id, value }) as CompanyChange
}
function plain<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T
}

/** As it was when it was opened: what somebody else changes meanwhile is not written over. */
const opened = plain(thingOf(company, about(null, id ?? '')))
/** As it is on the screen. */
const form = ref((isNew ? plain(partForms[part].blank(company)) : plain(opened.value)) as Record<string, unknown>)
/** Of a new person: the extension that they get with it. */
const extension = ref('')
/** Who comes after somebody who leaves; empty: nobody. */
const successor = ref<string | null>(null)
const removing = ref(false)

const everyField = useTemplateRef<HTMLElement>('fields')
const valueAt = (at: string) => at.split('.').reduce<unknown>((thing, name) => (thing as Record<string, unknown> | undefined)?.[name], form.value)
function setAt(at: string, value: unknown): void {
  const names = at.split('.')
  const last = names.pop()!
  const place = names.reduce<Record<string, unknown>>((thing, name) => thing[name] as Record<string, unknown>, form.value)
  place[last] = value
}

/** @param before what is changed, as it was when the form was opened */
async function carryOut(changes: CompanyChange[], before: CompanyChange, words: string): Promise<void> {
  let changed = 0
  const isDone = await send(labels, async () => {
    for (const [at, fault] of unread) throw new ValidationError(fault, null, at)
    changed = await editCompany(company, changes, [before])
  })
  if (isDone) return emit('done', changed === 0 ? t('company.nothingWasChangedItIs') : words)
  // What is wrong may stand far from the button that was pressed.
  await nextTick()
  everyField.value?.querySelector<HTMLElement>('.is-error :is(input, textarea)')?.focus()
}

function save(): Promise<void> {
  const value = form.value
  // A short number is known by itself.
  const its = part === 'shortNumbers' ? String(value.number) : String(value.id ?? '')
  const changes = [about(value, its)]
  if (part === 'people' && isNew && extension.value.trim() !== '') {
    const telephone = {
      ...partForms.telephones.blank(company), person: String(value.id), number: extension.value.trim(), pickupGroup: String(value.department),
    }
    changes.push({ part: 'telephones', id: telephone.id, value: telephone })
  }
  return carryOut(changes, isNew ? about(null, its) : opened, isNew ? t('company.added') : t('company.changedEverywhere'))
}

const remove = () => carryOut(part === 'people' ? leaving(company, id!, successor.value || null) : [about(null, id!)], opened, t('company.removed'))

const people = computed(() => Object.keys(company.people).filter(other => other !== id)
  .map(value => ({ value, label: titleOf(company, 'people', value) })).sort((a, b) => a.label.localeCompare(b.label)))
const heading = computed(() => part === 'settings'
  ? t('company.settings')
  : isNew
    ? t('company.newOne', { one: t(partForms[part].one) })
    : titleOf(company, part, id!))
const isGone = computed(() => part !== 'settings' && id !== null && lookUp(company[part] as Record<string, object>, id) === undefined)
</script>

<template>
  <el-form
    label-position="top"
    @submit.prevent="save"
  >
    <h2>{{ heading }}</h2>
    <p
      v-if="isGone"
      class="failure"
      role="alert"
    >
      {{ t('company.itHasBeenRemovedMeanwhile') }}
    </p>
    <div
      ref="fields"
      class="fields"
    >
      <FormField
        v-for="field in fields"
        :key="field.at"
        :class="{ whole: large.has(field.kind) }"
        :label="field.kind === 'check' ? '' : t(field.label)"
        :for="`field-${field.at}`"
        :error="errors[field.at]"
      >
        <output
          v-if="ownedAt.has(field.at)"
          :id="`field-${field.at}`"
          class="owned"
        >
          {{ wordsOf(company, field, valueAt(field.at)) }}
          <span class="soft">{{ t('company.fromTheHousesDirectory') }}</span>
        </output>
        <CompanyField
          v-else
          :id="`field-${field.at}`"
          :field="field"
          :company="company"
          :members="(form.members as string[] | undefined) ?? []"
          :zone="String(form.zone ?? company.settings.zone)"
          :model-value="valueAt(field.at)"
          @update:model-value="setAt(field.at, $event)"
          @fault="$event === null ? unread.delete(field.at) : unread.set(field.at, $event)"
        />
      </FormField>
      <el-form-item
        v-if="part === 'people' && isNew"
        :label="t('company.extensionEmptyNoTelephone')"
        for="field-extension"
      >
        <el-input
          id="field-extension"
          v-model="extension"
        />
      </el-form-item>
    </div>
    <FailureNote :text="failure" />
    <p class="button-row">
      <el-button
        type="primary"
        native-type="submit"
        :loading="sending"
      >
        {{ isNew ? 'Add' : t('company.save') }}
      </el-button>
      <el-button @click="emit('close')">
        {{ t('company.cancel') }}
      </el-button>
      <el-button
        v-if="!isNew && part !== 'settings' && !removing"
        @click="removing = true"
      >
        {{ t('company.remove') }}
      </el-button>
    </p>
    <div v-if="removing">
      <el-form-item
        v-if="part === 'people'"
        :label="t('company.theirTelephonesGoToEmpty')"
        for="field-successor"
      >
        <el-select-v2
          id="field-successor"
          v-model="successor"
          :options="people"
          filterable
          clearable
          placeholder=" "
          :aria-label="t('company.successor')"
        />
      </el-form-item>
      <el-button
        type="danger"
        :loading="sending"
        @click="remove"
      >
        {{ t('company.removeHeading', { heading }) }}
      </el-button>
    </div>
  </el-form>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--space-4);
  padding-top: var(--space-4);
}

.fields .whole {
  grid-column: 1 / 3;
}

.owned {
  display: grid;
  line-height: 1.4;
  overflow-wrap: anywhere;
}

.el-form-item {
  margin-bottom: var(--space-4);
}

.button-row {
  position: sticky;
  bottom: 0;
  z-index: 1;
  background: var(--sheet);
}

@media (max-width: 60rem) {
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }

  .fields .whole {
    grid-column: auto;
  }
}
</style>
