<script setup lang="ts">
import type { CompanyChange } from '~~/core/company/changes'
import type { OpeningHours } from '~~/core/company/company'
import { holidaysAsText, readHolidays } from '~~/core/company/written'
import type { Proposals } from '~~/shared/first-hour'
import { editCompany } from '~/company/edit'
import { newId } from '~/company/forms'
import { useLive } from '~/stores/live'

/** When the house answers, and on which days it does not: those of the country are proposed. */
const emit = defineEmits<{ done: [] }>()
const live = useLive()
const { failure, sending, send, clear } = useForm()
const company = computed(() => live.company!)
const { settings, lines } = company.value
const general = Object.values(lines).find(({ target }) => target === settings.operators)
const there = company.value.hours[general?.hours ?? ''] ?? Object.values(company.value.hours)[0]
const usual: OpeningHours['week'] = [1, 2, 3, 4, 5].map(day => ({ day, opens: 8 * 60, closes: 17 * 60 }))
const week = ref<OpeningHours['week']>(there?.week ?? usual)
const weekFault = ref<string | null>(null)
const known = ref<Proposals | null>(null)
const region = ref('')
const days = ref(holidaysAsText(there?.holidays ?? []))
const read = computed(() => readHolidays(days.value, settings.country === 'US'))
const faults = computed(() => read.value.faults.map(say))

watch(region, async (now) => {
  known.value = await $fetch<Proposals>('/api/company/proposals', { query: { country: settings.country, region: now } }).catch(() => known.value)
}, { immediate: true })

// What was wrong is not wrong any more once somebody has changed it.
watch([week, days, weekFault], clear)

/** The holidays of the country beside those that are there; what is no date yet stays for whoever wrote it. */
function propose(): void {
  const added = (known.value?.holidays ?? []).filter(({ date }) => !read.value.is.some(one => one.date === date))
  days.value = [days.value.trim(), holidaysAsText(added)].filter(Boolean).join('\n')
}

async function save(): Promise<void> {
  const now = company.value
  if (await send({}, async () => {
    const fault = weekFault.value ?? faults.value[0]
    if (fault) throw new NotTaken(fault)
    const id = there?.id ?? newId('h')
    const hours = { id, name: there?.name ?? t('firstHour.officeHours'), zone: there?.zone ?? now.settings.zone, week: week.value, holidays: read.value.is }
    const changes: CompanyChange[] = [{ part: 'hours', id, value: hours }]
    const line = general && now.lines[general.id]
    const closedText = line?.closedText || t('firstHour.isClosedNowPleaseLeave', { name: now.settings.name })
    if (line) changes.push({ part: 'lines', id: line.id, value: { ...line, hours: id, closedText } })
    await editCompany(now, changes)
  })) emit('done')
}
</script>

<template>
  <StepForm
    :failure="failure"
    :sending="sending"
    @keep="save"
  >
    <WeekField
      id="hours-week"
      v-model="week"
      @fault="weekFault = $event"
    />
    <h3>{{ t('firstHour.closedOn') }}</h3>
    <p class="proposal">
      <el-select-v2
        v-if="known?.regions.length"
        v-model="region"
        :options="[{ value: '', label: t('firstHour.theWholeCountry') }, ...known.regions.map(({ code, name }) => ({ value: code, label: name }))]"
        filterable
        :empty-values="[null, undefined]"
        :aria-label="t('firstHour.regionWhoseHolidaysAreProposed')"
      />
      <el-button
        :disabled="!known?.holidays.length"
        @click="propose"
      >
        {{ known?.holidays.length ? t('firstHour.proposePublicHolidays', { count: known.holidays.length }) : t('firstHour.noPublicHolidays') }}
      </el-button>
    </p>
    <el-input
      id="hours-holidays"
      v-model="days"
      type="textarea"
      :autosize="{ minRows: 4, maxRows: 12 }"
      :aria-label="t('firstHour.daysOnWhichItIs')"
      :placeholder="t('firstHour.n20261225ChristmasDay')"
    />
    <ul
      v-if="faults.length"
      class="wrong"
      role="alert"
    >
      <li
        v-for="fault in faults"
        :key="fault"
      >
        {{ fault }}
      </li>
    </ul>
    <template #more>
      <el-button @click="emit('done')">
        {{ t('firstHour.alwaysOpenGoOn') }}
      </el-button>
    </template>
  </StepForm>
</template>

<style scoped>
.proposal {
  display: flex;
  gap: var(--space-4);
  padding-bottom: var(--space-3);
}

.proposal :deep(.el-select) {
  max-width: 16rem;
}

.wrong {
  color: var(--alarm);
}
</style>
