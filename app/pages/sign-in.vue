<script setup lang="ts">
import { credentials } from '~~/shared/people'
import { useSession } from '~/stores/session'

definePageMeta({ layout: false })
useHead({ title: 'Sign in · Estafette' })

const session = useSession()
const form = reactive({ signIn: '', password: '' })
const { failure, sending, send } = useForm()
const name = useTemplateRef<{ focus: () => void }>('name')
onMounted(() => name.value?.focus())

async function enter(): Promise<void> {
  if (await send({}, () => session.signIn(credentials.validateSync(form)))) await navigateTo('/')
}
</script>

<template>
  <main class="gate">
    <form
      class="form"
      novalidate
      @submit.prevent="enter"
    >
      <h1>Estafette</h1>
      <p>Answer, see who is free, pass on, and watch until somebody holds the call.</p>
      <label for="sign-in">Sign-in name</label>
      <el-input
        id="sign-in"
        ref="name"
        v-model="form.signIn"
        size="large"
        autocomplete="username"
      />
      <label for="password">Password</label>
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
        Sign in
      </el-button>
    </form>
    <HouseFront class="house" />
  </main>
</template>

<style scoped>
.gate {
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(20rem, 28rem) 1fr;
  height: 100%;
}

.form {
  display: grid;
  align-content: center;
  gap: var(--space-3);
  padding: var(--space-7);
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

.house {
  display: block;
  width: 100%;
  height: 100%;
}

@media (max-width: 48rem) {
  .gate {
    grid-template-columns: 1fr;
  }

  .house {
    display: none;
  }

  .form {
    padding: var(--space-6);
  }
}
</style>
