<script setup lang="ts">
import { mailboxOf, slotId } from '~~/core/calls/names'
import type { CompanyChange } from '~~/core/company/changes'
import { freeNumber, takenNumbers } from '~~/core/company/free-number'
import { editCompany } from '~/company/edit'
import { newId, partForms } from '~/company/forms'
import { formatNumber } from '~/composables/numbers'
import { useLive } from '~/stores/live'

/** The number that everybody calls, how many can talk with the outside at once, and where callers are parked. */
const emit = defineEmits<{ done: [] }>()
const live = useLive()
const { failure, errors, sending, send } = useForm()
const { settings, lines, trunks, slots } = live.company!
const general = Object.values(lines).find(({ target }) => target === settings.operators)
const [trunk] = Object.values(trunks)
const usualSlots = 10
const firstSlot = '701'
const form = reactive({
  name: general?.name ?? t('firstHour.generalLine'), number: general ? formatNumber(general.number) : '',
  greeting: general?.greeting ?? t('firstHour.howCanIHelpYou', { name: settings.name }),
  channels: trunk?.channels ?? 4, slots: Object.keys(slots).length || usualSlots,
})
const labels = {
  name: t('firstHour.whatTheLineIsCalled'), number: t('firstHour.itsNumberAsPeopleWrite'), greeting: t('firstHour.greeting'),
  channels: t('firstHour.callsWithTheOutsideAt'),
  slots: t('common.parkSlots'),
}

async function save(): Promise<void> {
  const { company } = live
  if (!company) return
  if (await send(labels, async () => {
    if (form.number.trim() === '') throw new NotTaken(t('firstHour.sayWhichNumberPeopleCall'))
    const id = general?.id ?? newId('l')
    const before = general ?? { ...partForms.lines.blank(company), id, night: mailboxOf(id), overflow: { after: 240_000, to: mailboxOf(id) } }
    const changes: CompanyChange[] = [
      { part: 'lines', id, value: { ...before, name: form.name, number: form.number.trim(), greeting: form.greeting } },
      trunk
        ? { part: 'trunks', id: trunk.id, value: { ...trunk, channels: form.channels } }
        : { part: 'trunks', id: 'trunk:first',
            value: { id: 'trunk:first', name: t('common.outside'), channels: form.channels, kept: form.channels > 1 ? 1 : 0 } },
    ]
    // Slots that are missing are added; none is taken away here, for somebody may wait in it.
    const taken = takenNumbers(company)
    const there = Object.keys(company.slots).length
    for (let place = there + 1; place <= form.slots; place++) {
      const number = freeNumber(company.settings, taken, String(Number(firstSlot) + place - 2))
      taken.add(number)
      const slot = { id: Object.hasOwn(company.slots, slotId(place)) ? newId('slot:n') : slotId(place), name: String(place), number }
      changes.push({ part: 'slots', id: slot.id, value: slot })
    }
    await editCompany(company, changes)
  })) emit('done')
}
</script>

<template>
  <StepForm
    :failure="failure"
    :sending="sending"
    @keep="save"
  >
    <div class="pair">
      <FormField
        :label="labels.name"
        for="line-name"
        :error="errors.name"
      >
        <el-input
          id="line-name"
          v-model="form.name"
        />
      </FormField>
      <FormField
        :label="labels.number"
        for="line-number"
        :error="errors.number"
      >
        <el-input
          id="line-number"
          v-model="form.number"
          inputmode="tel"
        />
      </FormField>
    </div>
    <FormField
      :label="t('firstHour.greetingWhatOperatorsSayAfter')"
      for="line-greeting"
      :error="errors.greeting"
    >
      <el-input
        id="line-greeting"
        v-model="form.greeting"
      />
    </FormField>
    <div class="pair">
      <FormField
        :label="labels.channels"
        for="line-channels"
        :error="errors.channels"
      >
        <el-input-number
          id="line-channels"
          v-model="form.channels"
          :controls="false"
          :aria-label="labels.channels"
        />
      </FormField>
      <FormField
        :label="t('firstHour.parkSlotsWhereAnybodyTakes')"
        for="line-slots"
        :error="errors.slots"
      >
        <el-input-number
          id="line-slots"
          v-model="form.slots"
          :min="0"
          :max="40"
          :controls="false"
          :aria-label="t('common.parkSlots')"
        />
      </FormField>
    </div>
    <p class="soft">
      {{ t('firstHour.callsGoToTheOperators') }}
    </p>
  </StepForm>
</template>
