<script setup lang="ts">
import type { CompanyChange } from '~~/core/company/changes'
import { editCompany } from '~/company/edit'
import { besideOf, titleOf } from '~/company/forms'
import { useLive } from '~/stores/live'

/** Who answers for the house. */
const emit = defineEmits<{ done: [] }>()
const live = useLive()
const { failure, sending, send } = useForm()
const company = computed(() => live.company!)
const operators = computed(() => company.value.groups[company.value.settings.operators]!)
const chosen = ref([...operators.value.members])
/** So many calls can be with an operator at once: answered, on hold, asked about. */
const capacity = 12
const options = computed(() => Object.values(company.value.telephones).filter(({ person }) => person !== null)
  .map(({ id }) => ({ value: id, label: `${titleOf(company.value, 'telephones', id)} · ${besideOf(company.value, 'telephones', id)}` }))
  .sort((a, b) => a.label.localeCompare(b.label)))

async function save(): Promise<void> {
  const now = company.value
  if (await send({}, async () => {
    if (chosen.value.length === 0) throw new NotTaken(t('firstHour.chooseOnePersonAtLeast'))
    const small = chosen.value.map(id => now.telephones[id]!).filter(telephone => telephone.capacity < capacity)
    const changes: CompanyChange[] = [
      { part: 'groups', id: operators.value.id, value: { ...operators.value, members: [...chosen.value] } },
      ...small.map(telephone => ({ part: 'telephones' as const, id: telephone.id, value: { ...telephone, capacity } })),
    ]
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
    <FormField
      :label="t('firstHour.whoAnswersInOrder')"
      for="operators-chosen"
    >
      <el-select-v2
        id="operators-chosen"
        v-model="chosen"
        :options="options"
        multiple
        filterable
        :aria-label="t('firstHour.whoAnswersInOrder')"
        :placeholder="t('firstHour.namesExtensions')"
      />
    </FormField>
    <p class="soft">
      {{ t('firstHour.theySeeEveryCallerWho') }}
    </p>
  </StepForm>
</template>
