<script setup lang="ts">
import type { NuxtError } from '#app'

/** What is shown in the place of a page that is none, or that could not be shown. */
const { error } = defineProps<{ error: NuxtError }>()
const isUnknown = computed(() => error.statusCode === 404)
useHead({ title: 'Estafette' })
</script>

<template>
  <main class="nowhere">
    <h1>{{ isUnknown ? t('frame.thereIsNoSuchPage') : t('frame.thisPageCantBeShown') }}</h1>
    <p>{{ isUnknown ? t('frame.theAddressMayHaveBeen') : t('frame.loadItAgainCallsGoOn') }}</p>
    <p><a href="/">{{ t('frame.toTheConsole') }}</a></p>
  </main>
</template>

<style scoped>
.nowhere {
  display: grid;
  gap: var(--space-4);
  height: 100%;
  place-content: center;
  justify-items: center;
}

h1 {
  font: 700 var(--type-6) var(--font-sign);
}

a {
  color: inherit;
}
</style>
