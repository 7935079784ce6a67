<script setup lang="ts">
import { roleNames } from '~~/shared/role-names'
import { type HouseRules, houseRulesChange } from '~~/shared/house-rules'
import { always, type Right, rights } from '~~/shared/rights'
import { useDesk } from '~/stores/desk'

/** How people sign in here, and what each role may do. */
const emit = defineEmits<{ changed: [] }>()
const desk = useDesk()
const { failure, errors, sending, send } = useForm()
const rules = ref<HouseRules | null>(null)
const words: Record<Right, string> = {
  changeContacts: t('accounts.changeContactsThatAllSee'), moveContacts: t('accounts.bringContactsInGiveThem'), keepPlaces: t('accounts.sayWhoIsAtWhich'),
  readParkings: t('accounts.readWhoWasParked'), keepCalendars: t('accounts.keepCalendarsOfOthersAnd'), keepCharges: t('accounts.seeAndCorrectWhatCalls'),
  readFigures: t('accounts.readReportsLookAheadAnd'),
  hearRecordings: t('accounts.hearRecordings'),
  runCompany: t('accounts.runTheCompanySeeIts'),
  keepAccounts: t('accounts.keepAccountsAndTheseRules'),
}
const numbers = [
  { field: 'passwordLength', label: t('accounts.charactersOfAPasswordAt'), least: 8, most: 64 },
  { field: 'guesses', label: t('accounts.wrongPasswordsBeforeOneMust'), least: 3, most: 20 },
  { field: 'idleMinutes', label: t('accounts.minutesWithoutAConsoleUntil'), least: 5, most: 960 },
  { field: 'longestHours', label: t('accounts.hoursUntilEverybodyIsSigned'), least: 1, most: 16 },
  { field: 'recordingDays', label: t('accounts.daysUntilARecordingGoes'), least: 1, most: 3_650 },
] as const
const columns = ['operator', 'supervisor', 'administrator'] as const
const isFixed = (role: typeof columns[number], right: Right) => right === 'keepAccounts' || (role === 'administrator' && always.includes(right))

async function load(): Promise<void> {
  await send({}, async () => {
    rules.value = await $fetch<HouseRules>('/api/house-rules')
  })
}

function give(role: typeof columns[number], right: Right, is: boolean): void {
  const { may } = rules.value!
  may[role] = is ? [...may[role], right] : may[role].filter(one => one !== right)
}

async function save(): Promise<void> {
  const labels = Object.fromEntries(numbers.map(({ field, label }) => [field, label]))
  const done = await send(labels, async () => {
    const body = await houseRulesChange.validate(rules.value, { abortEarly: false })
    rules.value = await $fetch<HouseRules>('/api/house-rules', { method: 'PUT', body })
  })
  if (!done) return
  desk.say(t('accounts.theRulesAreInForce'))
  emit('changed')
}

onMounted(load)
</script>

<template>
  <el-form
    label-position="top"
    @submit.prevent="save"
  >
    <template v-if="rules">
      <table class="rights">
        <caption class="unseen">
          {{ t('accounts.whatEachRoleMayDo') }}
        </caption>
        <thead>
          <tr>
            <th scope="col">
              {{ t('accounts.may') }}
            </th>
            <th
              v-for="role in columns"
              :key="role"
              scope="col"
            >
              {{ say(roleNames[role]) }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="right in rights"
            :key="right"
          >
            <th scope="row">
              {{ words[right] }}
            </th>
            <td
              v-for="role in columns"
              :key="role"
            >
              <el-checkbox
                :model-value="rules.may[role].includes(right)"
                :disabled="isFixed(role, right)"
                :aria-label="`${words[right]}: ${say(roleNames[role])}`"
                @change="is => give(role, right, Boolean(is))"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <FormField
        v-for="{ field, label, least, most } in numbers"
        :key="field"
        :label="label"
        :for="`rule-${field}`"
        :error="errors[field]"
      >
        <el-input-number
          :id="`rule-${field}`"
          v-model="rules[field]"
          :min="least"
          :max="most"
          :controls="false"
          :aria-label="label"
        />
      </FormField>
    </template>
    <FailureNote :text="failure" />
    <el-button
      v-if="rules"
      native-type="submit"
      :loading="sending"
    >
      {{ t('accounts.putInForce') }}
    </el-button>
    <el-button
      v-if="failure"
      @click="load"
    >
      {{ t('accounts.lookAgain') }}
    </el-button>
  </el-form>
</template>

<style scoped>
.rights {
  width: 100%;
  margin-bottom: var(--space-4);
  border-collapse: collapse;
  font-size: var(--type-2);
}

.rights th {
  padding: var(--space-1) var(--space-2) var(--space-1) 0;
  font-weight: 600;
  text-align: left;
  vertical-align: bottom;
}

.rights tbody th {
  font-weight: 400;
  vertical-align: middle;
}

.rights td {
  text-align: center;
}
</style>
