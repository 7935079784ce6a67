<script setup lang="ts">
import { formatNumber } from '~~/core/numbers/dialled'
import type { Company } from '~~/core/company/company'
import { besideOf, type FormField, titleOf } from '~/company/forms'
import { readHolidays } from '~/company/holidays'
import { greetingsAsText, greetingsOf, holidaysAsText, holidaysOf, weekAsText, weekOf } from '~/company/hours'

/** One field of a thing of the company, by its kind. */
const props = defineProps<{ field: FormField, company: Company, id: string, zone: string }>()
const value = defineModel<unknown>({ required: true })

const words: Record<string, string> = {
  queue: 'all wait in it', longestFree: 'to who has been free longest', all: 'to all at once', none: 'nobody: they take callers themselves', order: 'in order',
  turn: 'in turn', skill: 'by skill',
}
/** Empty is none, where there may be none. */
const asText = computed({
  get: () => typeof value.value === 'string' ? value.value : '',
  set: (text: string) => value.value = text === '' && props.field.optional ? null : text,
})
const asNumber = computed({
  get: () => Number(value.value ?? 0) / (props.field.kind === 'seconds' ? 1_000 : 1),
  set: (number: number | undefined) => value.value = Math.round((number ?? 0) * (props.field.kind === 'seconds' ? 1_000 : 1)),
})
/** Several texts, one to a line. */
const lines = ref('')
const textsIn = (text: string) => text.split('\n').map(line => line.trim()).filter(Boolean)
interface Written { asText: (all: never) => string, of: (text: string) => unknown[], hint: string }
const byLines: Partial<Record<FormField['kind'], Written>> = {
  texts: { asText: (all: string[]) => all.join('\n'), of: textsIn, hint: 'One to a line.' },
  week: { asText: weekAsText, of: weekOf, hint: 'A day to a line: Mon 8:00-12:00 13:00-18:00. Days that are not named are closed.' },
  holidays: { asText: holidaysAsText, of: holidaysOf, hint: 'One to a line: 2026-12-25 Christmas Day.' },
  greetings: {
    asText: greetingsAsText, of: greetingsOf,
    hint: 'One to a line, with the language of the caller and the time from which it is said, as far as they matter: Dutch: 18:00 Goedenavond, Merrowby.',
  },
}
const written = computed(() => byLines[props.field.kind])
watch(value, (now) => {
  if (written.value && JSON.stringify(written.value.of(lines.value)) !== JSON.stringify(now)) lines.value = written.value.asText(now as never)
}, { immediate: true })
function read(text: string): void {
  lines.value = text
  value.value = written.value!.of(text)
}
/** Lines that mean nothing: they would be lost. */
const unread = computed(() => textsIn(lines.value).filter(line => written.value?.of(line).length === 0))
const fault = ref('')
/** Holidays of a file stand beside those that are there; a day has one name. */
async function addHolidays(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  fault.value = ''
  if (!file) return
  try {
    const all = [...holidaysOf(lines.value), ...await readHolidays(file, props.zone)]
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
  const boxes = [...Object.values(company.lines), ...Object.values(company.telephones)]
    .map(({ id, name }) => ({ value: `mailbox:${id}`, label: `Voicemail of ${name}` }))
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
    :label="field.label"
  />
  <el-input-number
    v-else-if="field.kind === 'number' || field.kind === 'seconds'"
    :id="id"
    v-model="asNumber"
    :min="0"
    :step="1"
    :controls="false"
    :aria-label="field.label"
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
      >Read in public holidays from an iCalendar file:</label>
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
    <span
      v-if="unread.length"
      class="unread"
      role="alert"
    >Not understood, and not kept: {{ unread.join('; ') }}</span>
  </template>
  <el-select
    v-else-if="field.kind === 'choice'"
    :id="id"
    v-model="value as string"
    :aria-label="field.label"
  >
    <el-option
      v-for="one in field.choices"
      :key="one"
      :value="one"
      :label="words[one] ?? one"
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
    :aria-label="field.label"
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
