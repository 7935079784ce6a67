<script setup lang="ts">
import { countries } from '~~/core/numbers/countries'
import type { Proposals } from '~~/shared/first-hour'
import { editCompany } from '~/company/edit'
import { useLive } from '~/stores/live'

/** What the house is called, where it stands, and which numbers are its own. */
const emit = defineEmits<{ done: [] }>()
const live = useLive()
const { failure, errors, sending, send } = useForm()
const { name, country, zone, language, firstExtension, longestInside } = live.company!.settings
const form = reactive({ name, country, zone, language, firstExtension, longestInside })
const known = ref<Proposals | null>(null)
const allZones = Intl.supportedValuesOf('timeZone')
const zones = computed(() => [...new Set([...known.value?.zones ?? [], ...allZones])].map(value => ({ value, label: value })))

/** Another country: its clock and its language are proposed; what is right already stays. */
watch(() => form.country, async (now, before) => {
  known.value = await $fetch<Proposals>('/api/company/proposals', { query: { country: now } }).catch(() => null)
  if (before === undefined || !known.value) return
  if (!known.value.zones.includes(form.zone)) form.zone = known.value.zones[0] ?? form.zone
  if (!known.value.languages.includes(form.language)) form.language = known.value.languages[0] ?? form.language
}, { immediate: true })

const labels = {
  name: t('firstHour.nameOfTheHouse'), country: t('firstHour.country'), zone: t('firstHour.timeZone'), language: t('firstHour.languageOfTheHouse'),
  firstExtension: t('firstHour.extensionsBeginAt'),
  longestInside: t('firstHour.longestNumberInside'),
}
async function save(): Promise<void> {
  const { company } = live
  if (!company) return
  if (await send(labels, async () => {
    if (form.name.trim() === '') throw new NotTaken(t('firstHour.sayWhatTheHouseIs'))
    const settings = { ...company.settings, ...form }
    // The emergency numbers of the country are known from now on; those that are there already stay.
    const emergency = (known.value?.emergency ?? ['112']).filter(number => !Object.hasOwn(company.shortNumbers, number))
    const none = !Object.values(company.shortNumbers).some(one => one.emergency)
    await editCompany(company, [
      { part: 'settings', value: settings },
      ...none
        ? emergency.map(number => ({ part: 'shortNumbers' as const, id: number, value: { number, name: t('firstHour.emergency'), emergency: true } }))
        : [],
    ])
  })) emit('done')
}
</script>

<template>
  <StepForm
    :failure="failure"
    :sending="sending"
    @keep="save"
  >
    <FormField
      :label="labels.name"
      for="house-name"
      :error="errors.name"
    >
      <el-input
        id="house-name"
        v-model="form.name"
        maxlength="80"
      />
    </FormField>
    <div class="pair">
      <FormField
        :label="labels.country"
        for="house-country"
        :error="errors.country"
      >
        <el-select-v2
          id="house-country"
          v-model="form.country"
          :options="[...countries]"
          filterable
          :aria-label="labels.country"
        />
      </FormField>
      <FormField
        :label="labels.zone"
        for="house-zone"
        :error="errors.zone"
      >
        <el-select-v2
          id="house-zone"
          v-model="form.zone"
          :options="zones"
          filterable
          :aria-label="labels.zone"
        />
      </FormField>
      <FormField
        :label="labels.language"
        for="house-language"
        :error="errors.language"
      >
        <el-input
          id="house-language"
          v-model="form.language"
          maxlength="40"
        />
      </FormField>
      <FormField
        :label="labels.firstExtension"
        for="house-first"
        :error="errors.firstExtension"
      >
        <el-input
          id="house-first"
          v-model="form.firstExtension"
          inputmode="numeric"
          maxlength="7"
        />
      </FormField>
      <FormField
        :label="t('firstHour.longestNumberInsideDigits')"
        for="house-longest"
        :error="errors.longestInside"
      >
        <el-input-number
          id="house-longest"
          v-model="form.longestInside"
          :controls="false"
          :aria-label="t('firstHour.longestNumberInsideDigits')"
        />
      </FormField>
    </div>
    <p
      v-if="known?.emergency.length"
      class="soft"
    >
      {{ t('firstHour.emergencyNumbersThereTheyAlways', { emergency: known.emergency.join(', ') }) }}
    </p>
  </StepForm>
</template>
