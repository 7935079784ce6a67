<script setup lang="ts">
import type { CompanyChange } from '~~/core/company/changes'
import { freeNumber, takenNumbers } from '~~/core/company/free-number'
import { fold } from '~~/core/directory/folding'
import { telephonesOf } from '~~/core/company/lookups'
import { editCompany } from '~/company/edit'
import { partForms, titleOf } from '~/company/forms'
import { useLive } from '~/stores/live'

/** Who works here: from a table, or typed one after the other. */
const emit = defineEmits<{ done: [] }>()
const live = useLive()
const { failure, sending, send } = useForm()
const said = ref('')
const form = reactive({ first: '', last: '', department: '', role: '', extension: '' })
const company = computed(() => live.company!)
const departments = computed(() => Object.values(company.value.departments).map(({ name }) => ({ value: name, label: name })))
const free = computed(() => freeNumber(company.value.settings, takenNumbers(company.value)))
const people = computed(() => Object.values(company.value.people))
const first = useTemplateRef<{ focus: () => void }>('first')

async function add(): Promise<void> {
  const now = company.value
  if (!await send({}, async () => {
    if (`${form.first}${form.last}`.trim() === '') throw new NotTaken(t('firstHour.sayWhoItIsA'))
    const changes: CompanyChange[] = []
    const inOrder = Object.values(now.departments).sort((a, b) => a.position - b.position)
    let department = form.department.trim() === '' ? inOrder[0]?.id : inOrder.find(({ name }) => fold(name) === fold(form.department))?.id
    if (department === undefined) {
      const made = { ...partForms.departments.blank(now), name: form.department.trim() }
      changes.push({ part: 'departments', id: made.id, value: made })
      department = made.id
    }
    const person = { ...partForms.people.blank(now), first: form.first.trim(), last: form.last.trim(), role: form.role.trim(), department }
    const telephone = { ...partForms.telephones.blank(now), person: person.id, number: form.extension.trim() || free.value, pickupGroup: department }
    changes.push({ part: 'people', id: person.id, value: person }, { part: 'telephones', id: telephone.id, value: telephone })
    await editCompany(now, changes)
    said.value = `${form.first} ${form.last} has ${telephone.number}.`
  })) return
  Object.assign(form, { first: '', last: '', role: '', extension: '' })
  first.value?.focus()
}
</script>

<template>
  <PeopleFile @done="said = $event" />
  <h3>{{ t('firstHour.orOneByOne') }}</h3>
  <el-form
    label-position="top"
    @submit.prevent="add"
  >
    <div class="pair">
      <FormField
        :label="t('firstHour.firstName')"
        for="person-first"
      >
        <el-input
          id="person-first"
          ref="first"
          v-model="form.first"
        />
      </FormField>
      <FormField
        :label="t('firstHour.lastName')"
        for="person-last"
      >
        <el-input
          id="person-last"
          v-model="form.last"
        />
      </FormField>
      <FormField
        :label="t('firstHour.departmentAlsoOneThatIs')"
        for="person-department"
      >
        <el-select-v2
          id="person-department"
          v-model="form.department"
          :options="departments"
          filterable
          allow-create
          clearable
          :value-on-clear="() => ''"
          :aria-label="t('firstHour.department')"
          placeholder=" "
        />
      </FormField>
      <FormField
        :label="t('firstHour.extensionEmpty', { free })"
        for="person-extension"
      >
        <el-input
          id="person-extension"
          v-model="form.extension"
          inputmode="numeric"
        />
      </FormField>
    </div>
    <FailureNote :text="failure" />
    <p
      v-if="said"
      class="done"
      role="status"
    >
      {{ said }}
    </p>
    <p class="button-row">
      <el-button
        native-type="submit"
        :loading="sending"
      >
        {{ t('firstHour.add') }}
      </el-button>
      <el-button
        type="primary"
        :disabled="people.length === 0"
        @click="emit('done')"
      >
        {{ t('firstHour.goOnWithOnePerson', { count: people.length }) }}
      </el-button>
    </p>
  </el-form>
  <ul
    v-if="people.length"
    class="there"
    :aria-label="t('common.whoIsThere')"
  >
    <li
      v-for="person in people.slice(-12).reverse()"
      :key="person.id"
    >
      {{ titleOf(company, 'people', person.id) }}
      <span class="soft">{{ telephonesOf(company, person.id)[0]?.number ?? t('common.noTelephone') }},
        {{ titleOf(company, 'departments', person.department) }}</span>
    </li>
  </ul>
</template>
