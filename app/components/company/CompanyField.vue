<script setup lang="ts">
import { mailboxOf } from '~~/core/calls/names'
import { formatNumber } from '~/composables/numbers'
import type { Company } from '~~/core/company/company'
import { countries } from '~~/core/numbers/countries'
import { greetingsAsText, holidaysAsText, type Read, readGreetings, readHolidays, readTexts } from '~~/core/company/written'
import { besideOf, nameOfChoice, type FormField, titleOf } from '~/company/forms'
import { holidaysOfFile } from '~/company/holidays'

/** One field of a thing of the company, by its kind. */
const props = defineProps<{ field: FormField, company: Company, id: string, zone: string, members: readonly string[] }>()
const value = defineModel<unknown>({ required: true })
/** What stands there and can't be understood; null: nothing. */
const emit = defineEmits<{ fault: [text: string | null] }>()

/** Empty is none, where there may be none. */
const asText = computed({
  get: () => typeof value.value === 'string' ? value.value : '',
  set: (text: string) => value.value = text === '' && props.field.optional ? null : text,
})
/** A number that is cleared is none: 0 is a number like others. */
const asNumber = computed({
  get: () => typeof value.value === 'number' ? value.value / (props.field.kind === 'seconds' ? 1_000 : 1) : undefined,
  set: (number: number | undefined | null) => value.value = typeof number === 'number' ? number * (props.field.kind === 'seconds' ? 1_000 : 1) : null,
})
/** Several, one to a line. */
const lines = ref('')
interface Written { asText: (all: never) => string, of: (text: string) => Read<unknown[]>, hint: string }
const monthFirst = computed(() => props.company.settings.country === 'US')
const byLines: Partial<Record<FormField['kind'], Written>> = {
  texts: { asText: (all: string[]) => all.join('\n'), of: readTexts, hint: t('company.oneToALine') },
  holidays: {
    asText: holidaysAsText, of: text => readHolidays(text, monthFirst.value), hint: t('company.oneToALine2026'),
  },
  greetings: {
    asText: greetingsAsText, of: readGreetings,
    hint: t('company.oneToALineWith'),
  },
}
const written = computed(() => byLines[props.field.kind])
watch(value, (now) => {
  if (written.value && JSON.stringify(written.value.of(lines.value).is) !== JSON.stringify(now)) lines.value = written.value.asText(now as never)
}, { immediate: true })
/** What can't be understood is told at once, and kept from being left out: the form is not sent as long as it stands there. */
const unread = ref<string[]>([])
function read(text: string): void {
  lines.value = text
  const { is, faults } = written.value!.of(text)
  unread.value = faults.map(say)
  emit('fault', unread.value[0] ?? null)
  value.value = is
}
const fault = ref('')
/** Holidays of a file stand beside those that are there; a day has one name. */
async function addHolidays(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  fault.value = ''
  if (!file) return
  try {
    const all = [...readHolidays(lines.value, monthFirst.value).is, ...await holidaysOfFile(file, props.zone)]
    const days = [...new Map(all.map(holiday => [holiday.date, holiday])).values()].sort((a, b) => a.date < b.date ? -1 : 1)
    read(holidaysAsText(days))
  }
  catch (error) {
    fault.value = sentenceOf(error)
  }
  input.value = ''
}

const options = computed(() => {
  const { company, field } = props
  const of = (part: NonNullable<FormField['of']>) => Object.keys(company[part]).map((id) => {
    const beside = part === 'people' || part === 'telephones' || part === 'groups' ? besideOf(company, part, id) : ''
    return { value: id, label: `${titleOf(company, part, id)}${beside && ` · ${beside}`}` }
  }).sort((a, b) => a.label.localeCompare(b.label))
  if (field.kind !== 'destination') return field.of ? of(field.of) : []
  const boxes = [...Object.values(company.lines), ...Object.values(company.groups), ...Object.values(company.telephones)]
    .map(({ id, name }) => ({ value: mailboxOf(id), label: t('company.voicemailOfName', { name }) }))
  const all = [...of('groups'), ...of('zones'), ...of('telephones'), ...boxes]
  const now = asText.value
  return now === '' || all.some(option => option.value === now) ? all : [{ value: now, label: formatNumber(now) }, ...all]
})
</script>

<template>
  <el-checkbox
    v-if="field.kind === 'check'"
    :id="id"
    v-model="value as boolean"
    :label="t(field.label)"
  />
  <el-input-number
    v-else-if="field.kind === 'number' || field.kind === 'seconds'"
    :id="id"
    v-model="asNumber"
    :value-on-clear="null"
    :step="1"
    :controls="false"
    :aria-label="t(field.label)"
  />
  <template v-else-if="written">
    <el-input
      :id="id"
      :model-value="lines"
      type="textarea"
      :autosize="{ minRows: 2, maxRows: 8 }"
      :aria-describedby="`${id}-hint`"
      @update:model-value="read"
    />
    <span
      :id="`${id}-hint`"
      class="hint"
    >{{ written.hint }}</span>
    <template v-if="field.kind === 'holidays'">
      <label
        class="hint"
        :for="`${id}-file`"
      >{{ t('company.readInPublicHolidaysFrom') }}</label>
      <input
        :id="`${id}-file`"
        type="file"
        accept=".ics,text/calendar"
        @change="addHolidays"
      >
      <span
        v-if="fault"
        class="unread"
        role="alert"
      >{{ fault }}</span>
    </template>
    <ul
      v-if="unread.length"
      class="unread"
      role="alert"
    >
      <li
        v-for="one in unread"
        :key="one"
      >
        {{ one }}
      </li>
    </ul>
  </template>
  <WeekField
    v-else-if="field.kind === 'week'"
    :id="id"
    v-model="value as Company['hours'][string]['week']"
    @fault="emit('fault', $event)"
  />
  <SkillsField
    v-else-if="field.kind === 'skills'"
    :id="id"
    v-model="value as Record<string, number>"
    :company="company"
    :members="members"
  />
  <ToneField
    v-else-if="field.kind === 'tone'"
    :id="id"
    v-model="value as string"
    :company="company"
    :at="field.at"
    :label="t(field.label)"
  />
  <el-select-v2
    v-else-if="field.kind === 'country'"
    :id="id"
    v-model="value as string"
    :options="[...countries]"
    :aria-label="t(field.label)"
    filterable
  />
  <el-select
    v-else-if="field.kind === 'choice' || field.kind === 'choices'"
    :id="id"
    v-model="value as string"
    :multiple="field.kind === 'choices'"
    :aria-label="t(field.label)"
  >
    <el-option
      v-for="one in field.choices"
      :key="one"
      :value="one"
      :label="nameOfChoice(one)"
    />
  </el-select>
  <el-select-v2
    v-else-if="field.kind === 'one' || field.kind === 'many' || field.kind === 'destination'"
    :id="id"
    v-model="value as string"
    :options="options"
    :multiple="field.kind === 'many'"
    :clearable="field.optional === true"
    :allow-create="field.kind === 'destination'"
    :value-on-clear="() => null"
    :aria-label="t(field.label)"
    filterable
    placeholder=" "
  />
  <el-input
    v-else
    :id="id"
    v-model="asText"
    :type="field.kind === 'long' ? 'textarea' : 'text'"
    :rows="2"
  />
</template>

<style scoped>
.el-select :deep(.el-tag__close) {
  width: 24px;
  height: 24px;
}

.unread {
  color: var(--alarm);
  line-height: 1.3;
}

.hint {
  color: var(--ink-soft);
  font-size: var(--type-2);
  line-height: 1.3;
}
</style>
