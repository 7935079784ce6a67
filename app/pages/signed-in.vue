<script setup lang="ts">
import { useSession } from '~/stores/session'

definePageMeta({ layout: false })
useHead({ title: t('signIn.signingInEstafette') })

/** Where the house's identity provider sends a browser back to. */
const session = useSession()
const { failure, sending, send } = useForm()
const heading = useTemplateRef<HTMLElement>('heading')
onMounted(async () => {
  const { search } = location
  // What has been sent along is good for one time, and stays in no history.
  history.replaceState(history.state, '', '/signed-in')
  if (await send({}, () => session.finish(search))) return navigateTo('/', { replace: true })
  heading.value?.focus()
})
</script>

<template>
  <TheGate>
    <h1
      ref="heading"
      tabindex="-1"
    >
      {{ failure ? t('signIn.notSignedIn') : t('signIn.signingIn') }}
    </h1>
    <p v-if="sending">
      {{ t('signIn.aMomentWhatTheIdentity') }}
    </p>
    <FailureNote :text="failure" />
    <p v-if="failure">
      <el-button
        size="large"
        @click="navigateTo('/sign-in')"
      >
        {{ t('signIn.toTheSignIn') }}
      </el-button>
    </p>
  </TheGate>
</template>

<style scoped>
h1 {
  padding-bottom: var(--space-5);
  font: 750 var(--type-6) / 1.2 var(--font-sign);
}

/* Reading goes on from here: there is nothing to press. */
h1:focus {
  outline: none;
}

.failure {
  padding-left: var(--space-4);
  margin-bottom: var(--space-5);
  border-left: 4px solid var(--alarm);
}
</style>
