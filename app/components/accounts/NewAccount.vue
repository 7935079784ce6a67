<script setup lang="ts">
import { newAccount } from '~~/shared/people'
import { roleNames } from '~~/shared/role-names'
import { roles } from '~~/shared/roles'

/** Somebody who may sign in from now on: somebody who works here, or a name. */
defineProps<{ people: { value: string, label: string }[] }>()
const emit = defineEmits<{ made: [account: { signIn: string, password: string }] }>()
const { failure, errors, sending, send } = useForm()
const blank = { signIn: '', role: 'operator' as const, person: null, name: '' }
const form = ref<{ signIn: string, role: typeof roles[number], person: string | null, name: string }>({ ...blank })

async function make(): Promise<void> {
  let made: { signIn: string, password: string } | null = null
  const done = await send({ signIn: t('common.signInName'), name: t('common.name'), person: t('accounts.whoItIs') }, async () => {
    const body = await newAccount.validate(form.value, { abortEarly: false })
    made = await $fetch<{ signIn: string, password: string }>('/api/accounts', { method: 'POST', body })
  })
  if (!done) return
  form.value = { ...blank }
  emit('made', made!)
}
</script>

<template>
  <el-form
    label-position="top"
    @submit.prevent="make"
  >
    <FormField
      :label="t('common.signInName')"
      for="account-sign-in"
      :error="errors.signIn"
    >
      <el-input
        id="account-sign-in"
        v-model="form.signIn"
        maxlength="60"
        autocomplete="off"
      />
    </FormField>
    <FormField
      :label="t('accounts.whoItIs')"
      for="account-person"
      :error="errors.person"
    >
      <el-select-v2
        id="account-person"
        v-model="form.person"
        :options="people"
        clearable
        filterable
        :value-on-clear="() => null"
        :aria-label="t('accounts.whoItIs')"
        :placeholder="t('accounts.nobodyWhoWorksHere')"
      />
    </FormField>
    <FormField
      v-if="form.person === null"
      :label="t('common.name')"
      for="account-name"
      :error="errors.name"
    >
      <el-input
        id="account-name"
        v-model="form.name"
        maxlength="80"
      />
    </FormField>
    <FormField
      :label="t('common.role')"
      for="account-role"
    >
      <el-select
        id="account-role"
        v-model="form.role"
        :aria-label="t('accounts.roleOfTheNewAccount')"
      >
        <el-option
          v-for="role in roles"
          :key="role"
          :value="role"
          :label="say(roleNames[role])"
        />
      </el-select>
    </FormField>
    <FailureNote :text="failure" />
    <el-button
      native-type="submit"
      :loading="sending"
    >
      {{ t('accounts.makeTheAccount') }}
    </el-button>
  </el-form>
</template>
