<script setup lang="ts">
import { useSession } from '~/stores/session'

/** The head of every page of figures: which of them it is, and the way to the others. */
defineProps<{ title: string }>()
const session = useSession()
</script>

<template>
  <h1>{{ title }}</h1>
  <nav
    class="kinds"
    aria-label="Figures"
  >
    <template v-if="session.may('readFigures')">
      <NuxtLink to="/figures">
        Reports
      </NuxtLink>
      <NuxtLink to="/figures/ahead">
        Look ahead
      </NuxtLink>
    </template>
    <NuxtLink
      v-if="session.may('keepCharges')"
      to="/charges"
    >
      Charges
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

.kinds .router-link-exact-active {
  color: var(--ink);
  font-weight: 700;
  text-decoration: none;
  border-bottom: 2px solid var(--ink);
}

@media print {
  .kinds {
    display: none;
  }
}
</style>
