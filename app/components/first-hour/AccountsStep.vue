<script setup lang="ts">
import { roleNames } from '~~/shared/role-names'
import { fold } from '~~/core/directory/folding'
import type { AccountInfo } from '~~/shared/people'
import { titleOf } from '~/company/forms'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

/** With what operators sign in: an account for each, with a password that is handed over once. */
const props = defineProps<{ accounts: AccountInfo[] }>()
const emit = defineEmits<{ done: [], changed: [] }>()
const live = useLive()
const session = useSession()
const { failure, sending, send } = useForm()
const company = computed(() => live.company!)
const made = ref<{ name: string, signIn: string, password: string }[]>([])

const operators = computed(() => (company.value.groups[company.value.settings.operators]?.members ?? []).flatMap((id) => {
  const person = company.value.telephones[id]?.person
  return person ? [{ person, name: titleOf(company.value, 'people', person), account: props.accounts.find(one => one.person === person) ?? null }] : []
}))
const without = computed(() => operators.value.filter(({ account }) => account === null))
const me = computed(() => props.accounts.find(({ signIn }) => signIn === session.me?.signIn))

/** Letters of their name, one that is nobody's yet. */
function signInFor(person: string, taken: ReadonlySet<string>): string {
  const { first, last } = company.value.people[person]!
  const base = fold(first || last).replace(/[^a-z0-9]/g, '') || 'operator'
  const whole = fold(`${first}.${last}`).replace(/[^a-z0-9.]/g, '').replace(/^\.|\.$/g, '')
  const tries = [base, whole, ...Array.from({ length: 99 }, (_, index) => `${whole}${index + 2}`)]
  return tries.find(one => one.length >= 2 && !taken.has(one)) ?? `${base}${taken.size}`
}

async function makeAll(): Promise<void> {
  const taken = new Set(props.accounts.map(({ signIn }) => signIn))
  await send({}, async () => {
    for (const { person, name } of without.value) {
      const signIn = signInFor(person, taken)
      taken.add(signIn)
      const body = { signIn, role: 'operator', person, name: '' }
      const account = await $fetch<{ signIn: string, password: string }>('/api/accounts', { method: 'POST', body })
      made.value.push({ name, ...account })
    }
  })
  emit('changed')
}

async function thatIsMe(person: string): Promise<void> {
  await send({}, () => $fetch(`/api/accounts/${encodeURIComponent(session.me!.signIn)}`, { method: 'PATCH', body: { person } }))
  emit('changed')
}
const print = () => window.print()
</script>

<template>
  <RecordsTable
    :columns="[t('firstHour.whoAnswers'), t('common.signInName'), `-${t('firstHour.isItYou')}`]"
    :rows="operators"
    :key-of="row => row.person"
    :empty="t('firstHour.nobodyAnswersYetChooseThem')"
  >
    <template #default="{ row }">
      <td>{{ row.name }}</td>
      <td>{{ row.account ? `${row.account.signIn}, ${say(roleNames[row.account.role])}` : t('firstHour.noAccountYet') }}</td>
      <td class="acts">
        <el-button
          v-if="!row.account && me && me.person === null"
          size="small"
          :aria-label="t('firstHour.thatIsMe', { name: row.name })"
          @click="thatIsMe(row.person)"
        >
          {{ t('firstHour.thatIsMe2') }}
        </el-button>
      </td>
    </template>
  </RecordsTable>
  <FailureNote :text="failure" />
  <div
    v-if="made.length"
    class="made"
    role="status"
  >
    <p><strong>{{ t('firstHour.toBeHandedOverNow') }}</strong> {{ t('firstHour.thesePasswordsAreShownThis') }}</p>
    <RecordsTable
      :columns="[t('common.name'), t('common.signInName'), t('common.password')]"
      :rows="made"
      :key-of="row => row.signIn"
      :empty="null"
    >
      <template #default="{ row }">
        <td>{{ row.name }}</td>
        <td>{{ row.signIn }}</td>
        <td><code>{{ row.password }}</code></td>
      </template>
    </RecordsTable>
  </div>
  <p class="button-row">
    <el-button
      v-if="without.length"
      type="primary"
      :loading="sending"
      @click="makeAll"
    >
      {{ without.length === 1 ? t('firstHour.makeAnAccount') : t('firstHour.makeAccounts', { count: without.length }) }}
    </el-button>
    <el-button
      v-if="made.length"
      @click="print"
    >
      {{ t('common.print') }}
    </el-button>
    <el-button
      :type="without.length ? 'default' : 'primary'"
      @click="emit('done')"
    >
      {{ t('firstHour.goOn') }}
    </el-button>
  </p>
</template>

<style scoped>
.made {
  padding: var(--space-4);
  margin-top: var(--space-4);
  background: var(--lit);
  border: var(--line);
}

code {
  font-size: var(--type-4);
  user-select: all;
}
</style>
