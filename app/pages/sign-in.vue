<script setup lang="ts">
import { credentials } from '~~/shared/people'
import { useSession } from '~/stores/session'

definePageMeta({ layout: false })
useHead({ title: t('signIn.signInEstafette') })

const session = useSession()
const form = reactive({ signIn: '', password: '' })
const { failure, sending, send } = useForm({ signIn: t('common.signInName'), password: t('common.password') })
const name = useTemplateRef<{ focus: () => void }>('name')
onMounted(() => name.value?.focus())

/** The house's own identity provider, if there is one; should that not be known, a password is as good as ever. */
const provider = ref<string | null>(null)
onMounted(async () => provider.value = (await $fetch('/api/identity').catch(() => null))?.name ?? null)
async function enterThere(): Promise<void> {
  await send({}, async () => {
    const { address } = await $fetch('/api/identity/begin', { method: 'POST', body: {} })
    await navigateTo(address, { external: true })
  })
}

async function enter(): Promise<void> {
  if (await send({}, () => session.signIn(credentials.validateSync(form)))) await navigateTo('/')
}
</script>

<template>
  <TheGate>
    <form
      class="form"
      novalidate
      @submit.prevent="enter"
    >
      <h1>Estafette</h1>
      <p>{{ t('signIn.answerSeeWhoIsFree') }}</p>
      <label for="sign-in">{{ t('common.signInName') }}</label>
      <el-input
        id="sign-in"
        ref="name"
        v-model="form.signIn"
        size="large"
        autocomplete="username"
      />
      <label for="password">{{ t('common.password') }}</label>
      <el-input
        id="password"
        v-model="form.password"
        size="large"
        type="password"
        autocomplete="current-password"
      />
      <FailureNote :text="failure" />
      <el-button
        class="go"
        size="large"
        native-type="submit"
        :loading="sending"
      >
        {{ t('signIn.signIn') }}
      </el-button>
      <el-button
        v-if="provider"
        class="there"
        size="large"
        :disabled="sending"
        @click="enterThere"
      >
        {{ t('signIn.signInWith', { provider }) }}
      </el-button>
    </form>
  </TheGate>
</template>

<style scoped>
.form {
  display: grid;
  gap: var(--space-3);
}

h1 {
  font: 750 2.75rem/1 var(--font-sign);
}

.form > p {
  margin-bottom: var(--space-5);
  color: var(--ink-soft);
  font-size: var(--type-4);
}

label {
  font-weight: 600;
}

.form > .failure {
  margin: 0;
  padding-left: var(--space-4);
  border-left: 4px solid var(--alarm);
  color: var(--ink);
}

.go {
  margin-top: var(--space-4);
  --el-button-bg-color: var(--ink);
  --el-button-text-color: var(--paper);
  --el-button-hover-bg-color: var(--ink-soft);
  --el-button-hover-text-color: var(--paper);
}

.form .there {
  margin: 0;
}
</style>
