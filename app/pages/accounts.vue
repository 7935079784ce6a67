<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import type { AccountChanges, AccountInfo } from '~~/shared/people'
import { roleNames } from '~~/shared/role-names'
import { type Role, roles } from '~~/shared/roles'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

useHead({ title: t('accounts.accountsEstafette') })

const session = useSession()
const live = useLive()
const accounts = ref<AccountInfo[]>([])
const changes = ref<AccountChanges>([])
const failure = ref<string | null>(null)
/** A password that has just been made: shown until the next change, and nowhere else. */
const made = ref<{ signIn: string, password: string } | null>(null)

async function load(): Promise<void> {
  try {
    accounts.value = await $fetch<AccountInfo[]>('/api/accounts')
    changes.value = await $fetch<AccountChanges>('/api/accounts/changes')
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

async function change(account: AccountInfo, what: { role?: Role, disabled?: boolean, person?: string | null }): Promise<void> {
  failure.value = made.value = null
  try {
    await $fetch(`/api/accounts/${encodeURIComponent(account.signIn)}`, { method: 'PATCH', body: what })
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
  await load()
}

async function newPassword({ signIn }: AccountInfo): Promise<void> {
  failure.value = made.value = null
  try {
    const { password } = await $fetch<{ password: string }>(`/api/accounts/${encodeURIComponent(signIn)}/password`, { method: 'POST', body: {} })
    made.value = { signIn, password }
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
  await load()
}

function madeOne(account: { signIn: string, password: string }): void {
  made.value = account
  void load()
}

/** By their names; two of one name by their departments too. */
const people = computed(() => {
  const all = Object.values(live.company?.people ?? {}).map(({ id, first, last, department }) => ({ value: id, label: `${first} ${last}`.trim(), department }))
  const named = new Map<string, number>()
  for (const { label } of all) named.set(label, (named.get(label) ?? 0) + 1)
  return all.map(({ value, label, department }) =>
    ({ value, label: named.get(label)! > 1 ? `${label} · ${live.company!.departments[department]?.name ?? ''}` : label }))
    .sort((a, b) => a.label.localeCompare(b.label))
})

/** What the rules of the house are called. */
const words: Record<string, string> = {
  passwordLength: t('accounts.charactersOfAPassword'), guesses: t('accounts.wrongPasswords'), idleMinutes: t('accounts.minutesUntilSignedOut'),
  longestHours: t('accounts.hoursUntilSignedOut'),
  identityProvider: t('accounts.identityProvider'), operator: t('accounts.operatorsMay'), supervisor: t('accounts.supervisorsMay'),
  administrator: t('accounts.administratorsMay'),
}

onMounted(load)
useIntervalFn(load, 10_000)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('common.accounts') }}</h1>
      <p class="soft">
        {{ t('accounts.aRoleThatChangesAnd') }}
      </p>
      <el-button @click="navigateTo('/identity')">
        {{ t('accounts.signInByTheHouses') }}
      </el-button>
    </div>
    <FailureNote :text="failure" />
    <p
      v-if="made"
      class="done"
      role="status"
    >
      {{ t('accounts.theNewPasswordOfShown', {
        signIn: made.signIn,
      }) }} <code>{{ made.password }}</code>{{ t('accounts.everywhereElseHasBeenSigned', { signIn: made.signIn }) }}
    </p>
    <div class="panes">
      <div class="list">
        <RecordsTable
          v-slot="{ row: account }"
          :columns="[t('common.name'), t('common.signInName'), t('accounts.whoItIs'), t('common.telephone'), t('common.role'), t('accounts.browsers'),
                     `-${t('accounts.whatCanBeDone')}`]"
          :rows="accounts"
          :key-of="({ signIn }) => signIn"
          :empty="null"
          :class-of="({ disabled }) => disabled ? 'shut' : undefined"
        >
          <td><strong>{{ account.name }}</strong></td>
          <td>{{ account.signIn }}</td>
          <td>
            <el-select-v2
              :model-value="account.person"
              :options="people"
              clearable
              filterable
              size="small"
              class="person"
              :value-on-clear="() => null"
              :aria-label="t('accounts.whoIs', { signIn: account.signIn })"
              :placeholder="t('accounts.nobodyHere')"
              @change="(person: string | null) => change(account, { person })"
            />
          </td>
          <td>{{ account.extension ?? t('accounts.none') }}</td>
          <td>
            <el-select
              :model-value="account.role"
              :aria-label="t('accounts.roleOf', { name: account.name })"
              size="small"
              class="role"
              @change="role => change(account, { role })"
            >
              <el-option
                v-for="role in roles"
                :key="role"
                :value="role"
                :label="say(roleNames[role])"
              />
            </el-select>
          </td>
          <td>{{ account.disabled ? t('accounts.shut') : account.sessions || t('accounts.none') }}</td>
          <td class="acts">
            <el-button
              v-if="account.signIn !== session.me?.signIn"
              size="small"
              :aria-label="account.disabled ? t('accounts.openTheAccountOf', { name: account.name }) : t('accounts.shutTheAccountOf', { name: account.name })"
              @click="change(account, { disabled: !account.disabled })"
            >
              {{ account.disabled ? t('common.open') : t('accounts.shut2') }}
            </el-button>
            <el-button
              v-if="account.signIn !== session.me?.signIn"
              size="small"
              :aria-label="t('accounts.newPasswordFor', { name: account.name })"
              @click="newPassword(account)"
            >
              {{ t('accounts.newPassword') }}
            </el-button>
          </td>
        </RecordsTable>
        <h2 class="rules">
          {{ t('common.whatWasChanged') }}
        </h2>
        <p
          v-if="!changes.length"
          class="soft"
        >
          {{ t('accounts.nothingYet') }}
        </p>
        <RecordsTable
          v-else
          v-slot="{ row: one }"
          :columns="[t('common.when'), t('common.by'), t('accounts.of'), t('common.what'), t('common.from'), t('common.to')]"
          :rows="changes"
          :key-of="({ id }) => String(id)"
          :empty="null"
        >
          <td>{{ shownAt(one.at).format('D MMM H:mm') }}</td>
          <td>{{ one.by }}</td>
          <td>{{ one.account ?? t('accounts.theRules') }}</td>
          <td>{{ words[one.what] ?? one.what }}</td>
          <td>{{ one.before }}</td>
          <td>{{ one.after }}</td>
        </RecordsTable>
      </div>
      <aside
        class="details"
        :aria-label="t('accounts.aNewAccountAndThe')"
      >
        <h2>{{ t('accounts.newAccount') }}</h2>
        <NewAccount
          :people="people"
          @made="madeOne"
        />
        <h2 class="rules">
          {{ t('accounts.rulesOfTheHouse') }}
        </h2>
        <HouseRules @changed="load" />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.role {
  width: 8.5rem;
}

.shut td {
  color: var(--ink-soft);
}

.person {
  width: 11rem;
}

.rules {
  padding-top: var(--space-6);
}

code {
  font-weight: 700;
  user-select: all;
}
</style>
