<script setup lang="ts">
import { useSession } from '~/stores/session'

/** The head of every page of figures: which of them it is, and the way to the others. */
const props = defineProps<{ title: string }>()
const session = useSession()
const others = computed(() => [
  { title: 'Reports', to: '/figures', may: session.may('readFigures') }, { title: 'Look ahead', to: '/figures/ahead', may: session.may('readFigures') },
  { title: 'Watching', to: '/watch', may: session.may('readFigures') },
  { title: 'Charges', to: '/charges', may: session.may('keepCharges') },
].filter(({ title, may }) => may && title !== props.title))
</script>

<template>
  <h1>{{ title }}</h1>
  <nav
    class="kinds"
    aria-label="Figures"
  >
    <NuxtLink
      v-for="other in others"
      :key="other.to"
      :to="other.to"
    >
      {{ other.title }}
    </NuxtLink>
  </nav>
</template>

<style scoped>
.kinds {
  display: flex;
  gap: var(--space-4);
}

.kinds a {
  padding: var(--space-2) 0;
  color: var(--ink-soft);
}

@media print {
  .kinds {
    display: none;
  }
}
</style>
