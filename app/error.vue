<script setup lang="ts">
import type { NuxtError } from '#app'

/** What is shown in the place of a page that is none, or that could not be shown. */
const { error } = defineProps<{ error: NuxtError }>()
const isUnknown = computed(() => error.statusCode === 404)
useHead({ title: 'Estafette' })
</script>

<template>
  <main class="nowhere">
    <h1>{{ isUnknown ? 'There is no such page' : 'This page can\'t be shown' }}</h1>
    <p>{{ isUnknown ? 'The address may have been mistyped, or the page is no more.' : 'Load it again; calls go on meanwhile, at the exchange.' }}</p>
    <p><a href="/">To the console</a></p>
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
