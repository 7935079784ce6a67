<script setup lang="ts">
import { type IdentitySettings, type IdentityWanted, identityWanted } from '~~/shared/identity'
import { roles } from '~~/shared/roles'

useHead({ title: 'Sign-in by the house\'s provider · Estafette' })

/** The house's identity provider (OpenID Connect): whoever it says somebody is, they are here, with the role of their groups. */
const { failure, errors, sending, send } = useForm()
const state = ref<IdentitySettings | null>(null)
const said = ref('')
const form = ref<IdentityWanted>({
  name: '', issuer: '', clientId: '', secret: '', scopes: 'openid profile email', address: location.origin, signIn: 'preferred_username', groups: 'groups',
  roles: [], otherwise: null, makes: true,
})
const fields = {
  name: 'What people call it', issuer: 'Issuer', clientId: 'Client', secret: 'Secret of the client', scopes: 'Scopes', address: 'Where people reach Estafette',
  signIn: 'Claim that is the sign-in name here', groups: 'Claim that holds the groups', roles: 'Roles', otherwise: 'Role of whom no group gives one',
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
  said.value = `People sign in with ${form.value.name} from now on. Passwords go on being good.`
}
async function stop(): Promise<void> {
  if (!await send({}, async () => {
    await $fetch('/api/identity/settings', { method: 'DELETE' })
    take(await $fetch<IdentitySettings>('/api/identity/settings'))
  })) return
  said.value = 'Nobody signs in by it any more. Who had, is signed out.'
}
const secretLabel = computed(() => state.value?.settings ? `${fields.secret}; empty: the one that is kept` : fields.secret)
/** What is wrong with any of the rows. */
const rolesFault = computed(() => Object.entries(errors.value).find(([at]) => at.startsWith('roles'))?.[1])
const home = computed(() => form.value.address.replace(/\/+$/, ''))
</script>

<template>
  <div class="records-page">
    <h1>Sign-in by the house's provider</h1>
    <p class="button-row">
      <el-button @click="navigateTo('/accounts')">
        Back to the accounts
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
        aria-label="The identity provider"
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
              placeholder="the house's account"
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
          <legend>Roles by group: the first that fits</legend>
          <div
            v-for="(row, at) in form.roles"
            :key="at"
            class="group"
          >
            <el-input
              v-model="row.group"
              :aria-label="`Group ${at + 1}`"
              placeholder="Group"
            />
            <el-select
              v-model="row.role"
              :aria-label="`Role of group ${at + 1}`"
            >
              <el-option
                v-for="role in roles"
                :key="role"
                :value="role"
                :label="role"
              />
            </el-select>
            <el-button
              :aria-label="`Leave group ${at + 1} out`"
              @click="form.roles.splice(at, 1)"
            >
              Leave out
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
            Another group
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
              placeholder="None: nobody new comes in"
              :aria-label="called('otherwise')"
            >
              <el-option
                v-for="role in roles"
                :key="role"
                :value="role"
                :label="role"
              />
            </el-select>
          </FormField>
          <el-checkbox
            v-model="form.makes"
            label="Whoever has no account gets one at the first sign-in"
          />
        </div>
        <FailureNote :text="failure" />
        <p class="button-row">
          <el-button
            type="primary"
            native-type="submit"
            :loading="sending"
          >
            {{ state?.settings ? 'Keep it so' : 'Have people sign in by it' }}
          </el-button>
        </p>
      </el-form>
      <section
        class="part"
        aria-labelledby="identity-there"
      >
        <h2 id="identity-there">
          What the provider has to know
        </h2>
        <FactList
          :facts="[
            { what: 'Sends back to', is: `${home}/signed-in` }, { what: 'After signing out', is: `${home}/sign-in` },
            { what: 'Tells of an end', is: `${home}/api/identity/ended` },
          ]"
        />
        <p class="soft">
          A client with a secret, sent in the body; code flow with PKCE. Told of an end there (back-channel logout), consoles are signed out at once.
        </p>
        <template v-if="state?.settings">
          <h3>Now</h3>
          <FactList :facts="[{ what: 'Answered', is: state.readAt === null ? 'not yet' : shownAt(state.readAt).format('D MMM H:mm') }]" />
          <FailureNote :text="state.failure" />
          <p class="button-row">
            <el-button
              size="small"
              :loading="sending"
              @click="stop"
            >
              Nobody signs in by it any more
            </el-button>
          </p>
        </template>
        <h3>Should it be away</h3>
        <p class="soft">
          Whoever has a password here gets in by it, administrators first of all. An account that was made at a first sign-in has none until an administrator
          gives it one.
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
