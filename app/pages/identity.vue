<script setup lang="ts">
import { type IdentitySettings, type IdentityWanted, identityWanted } from '~~/shared/identity'
import { roleNames } from '~~/shared/role-names'
import { type Role, roles } from '~~/shared/roles'

useHead({ title: t('identity.signInByTheHouses') })

/** The house's identity provider (OpenID Connect): whoever it says somebody is, they are here, with the role of their groups. */
const { failure, errors, sending, send } = useForm()
const state = ref<IdentitySettings | null>(null)
const nameOfRole = (role: Role) => say(roleNames[role])
const said = ref('')
const form = ref<IdentityWanted>({
  name: '', issuer: '', clientId: '', secret: '', scopes: 'openid profile email', address: location.origin, signIn: 'preferred_username', groups: 'groups',
  roles: [], otherwise: null, makes: true,
})
const fields = {
  name: t('identity.whatPeopleCallIt'), issuer: t('identity.issuer'), clientId: t('identity.client'), secret: t('identity.secretOfTheClient'),
  scopes: t('identity.scopes'), address: t('identity.wherePeopleReachEstafette'),
  signIn: t('identity.claimThatIsTheSign'), groups: t('identity.claimThatHoldsTheGroups'), roles: t('identity.roles'),
  otherwise: t('identity.roleOfWhomNoGroup'),
}

const called = (field: keyof typeof fields) => fields[field]

function take(now: IdentitySettings): void {
  state.value = now
  if (now.settings) form.value = { ...now.settings, secret: '' }
}
onMounted(() => send({}, async () => take(await $fetch<IdentitySettings>('/api/identity/settings'))))

async function keep(): Promise<void> {
  said.value = ''
  if (!await send(fields, async () => {
    const body = await identityWanted.validate(form.value, { abortEarly: false })
    take(await $fetch<IdentitySettings>('/api/identity/settings', { method: 'PUT', body }))
  })) return
  said.value = t('identity.peopleSignInWithFrom', { name: form.value.name })
}
async function stop(): Promise<void> {
  if (!await send({}, async () => {
    await $fetch('/api/identity/settings', { method: 'DELETE' })
    take(await $fetch<IdentitySettings>('/api/identity/settings'))
  })) return
  said.value = t('identity.nobodySignsInByIt')
}
const secretLabel = computed(() => state.value?.settings ? t('identity.emptyTheOneThatIs', { secret: fields.secret }) : fields.secret)
/** What is wrong with any of the rows. */
const rolesFault = computed(() => Object.entries(errors.value).find(([at]) => at.startsWith('roles'))?.[1])
const home = computed(() => form.value.address.replace(/\/+$/, ''))
</script>

<template>
  <div class="records-page">
    <h1>{{ t('identity.signInByTheHousesProvider') }}</h1>
    <p class="button-row">
      <el-button @click="navigateTo('/accounts')">
        {{ t('identity.backToTheAccounts') }}
      </el-button>
    </p>
    <p
      v-if="said"
      class="done"
      role="status"
    >
      {{ said }}
    </p>
    <div class="two-parts">
      <el-form
        label-position="top"
        :aria-label="t('identity.theIdentityProvider')"
        @submit.prevent="keep"
      >
        <div class="pair">
          <FormField
            :label="called('name')"
            for="identity-name"
            :error="errors.name"
          >
            <el-input
              id="identity-name"
              v-model="form.name"
              maxlength="40"
              :placeholder="t('identity.theHousesAccount')"
            />
          </FormField>
          <FormField
            :label="called('issuer')"
            for="identity-issuer"
            :error="errors.issuer"
          >
            <el-input
              id="identity-issuer"
              v-model="form.issuer"
              placeholder="https://login.house.example"
            />
          </FormField>
          <FormField
            :label="called('clientId')"
            for="identity-client"
            :error="errors.clientId"
          >
            <el-input
              id="identity-client"
              v-model="form.clientId"
              autocomplete="off"
            />
          </FormField>
          <FormField
            :label="secretLabel"
            for="identity-secret"
            :error="errors.secret"
          >
            <el-input
              id="identity-secret"
              v-model="form.secret"
              type="password"
              autocomplete="new-password"
            />
          </FormField>
          <FormField
            :label="called('address')"
            for="identity-address"
            :error="errors.address"
          >
            <el-input
              id="identity-address"
              v-model="form.address"
            />
          </FormField>
          <FormField
            :label="called('scopes')"
            for="identity-scopes"
            :error="errors.scopes"
          >
            <el-input
              id="identity-scopes"
              v-model="form.scopes"
            />
          </FormField>
          <FormField
            :label="called('signIn')"
            for="identity-sign-in"
            :error="errors.signIn"
          >
            <el-input
              id="identity-sign-in"
              v-model="form.signIn"
            />
          </FormField>
          <FormField
            :label="called('groups')"
            for="identity-groups"
            :error="errors.groups"
          >
            <el-input
              id="identity-groups"
              v-model="form.groups"
            />
          </FormField>
        </div>
        <fieldset>
          <legend>{{ t('identity.rolesByGroupTheFirst') }}</legend>
          <div
            v-for="(row, at) in form.roles"
            :key="at"
            class="group"
          >
            <el-input
              v-model="row.group"
              :aria-label="t('identity.groupN', { n: at + 1 })"
              :placeholder="t('identity.group')"
            />
            <el-select
              v-model="row.role"
              :aria-label="t('identity.roleOfGroup', { n: at + 1 })"
            >
              <el-option
                v-for="role in roles"
                :key="role"
                :value="role"
                :label="nameOfRole(role)"
              />
            </el-select>
            <el-button
              :aria-label="t('identity.leaveGroupOut', { n: at + 1 })"
              @click="form.roles.splice(at, 1)"
            >
              {{ t('identity.leaveOut') }}
            </el-button>
          </div>
          <p
            v-if="rolesFault"
            class="failure"
            role="alert"
          >
            {{ rolesFault }}
          </p>
          <el-button
            size="small"
            @click="form.roles.push({ group: '', role: 'operator' })"
          >
            {{ t('identity.anotherGroup') }}
          </el-button>
        </fieldset>
        <div class="pair">
          <FormField
            :label="called('otherwise')"
            for="identity-otherwise"
            :error="errors.otherwise"
          >
            <el-select
              id="identity-otherwise"
              v-model="form.otherwise"
              clearable
              :value-on-clear="() => null"
              :placeholder="t('identity.noneNobodyNewComesIn')"
              :aria-label="called('otherwise')"
            >
              <el-option
                v-for="role in roles"
                :key="role"
                :value="role"
                :label="nameOfRole(role)"
              />
            </el-select>
          </FormField>
          <el-checkbox
            v-model="form.makes"
            :label="t('identity.whoeverHasNoAccountGets')"
          />
        </div>
        <FailureNote :text="failure" />
        <p class="button-row">
          <el-button
            type="primary"
            native-type="submit"
            :loading="sending"
          >
            {{ state?.settings ? t('identity.keepItSo') : t('identity.havePeopleSignInBy') }}
          </el-button>
        </p>
      </el-form>
      <section
        class="part"
        aria-labelledby="identity-there"
      >
        <h2 id="identity-there">
          {{ t('identity.whatTheProviderHasTo') }}
        </h2>
        <FactList
          :facts="[
            { what: t('identity.sendsBackTo'), is: `${home}/signed-in` }, { what: t('identity.afterSigningOut'), is: `${home}/sign-in` },
            { what: t('identity.tellsOfAnEnd'), is: `${home}/api/identity/ended` },
          ]"
        />
        <p class="soft">
          {{ t('identity.aClientWithASecret') }}
        </p>
        <template v-if="state?.settings">
          <h3>{{ t('common.now') }}</h3>
          <FactList :facts="[{ what: t('common.answered'), is: state.readAt === null ? t('common.notYet') : shownAt(state.readAt).format('D MMM H:mm') }]" />
          <FailureNote :text="state.failure" />
          <p class="button-row">
            <el-button
              size="small"
              :loading="sending"
              @click="stop"
            >
              {{ t('identity.nobodySignsInByItAny') }}
            </el-button>
          </p>
        </template>
        <h3>{{ t('identity.shouldItBeAway') }}</h3>
        <p class="soft">
          {{ t('identity.whoeverHasAPasswordHere') }}
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
fieldset {
  padding: var(--space-3) 0;
  margin: 0;
  border: 0;
}

legend {
  padding: 0 0 var(--space-3);
}

.group {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 10rem auto;
  gap: var(--space-3);
  align-items: center;
  padding-bottom: var(--space-3);
}

.pair > .el-checkbox {
  height: auto;
  min-height: 3rem;
  white-space: normal;
}

h3 {
  padding-top: var(--space-4);
}
</style>
