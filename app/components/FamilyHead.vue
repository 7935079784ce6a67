<script setup lang="ts">
/** The head of a page that has sisters: which of them it is, and the way to the others. */
const props = defineProps<{ title: string, family: string, pages: readonly { title: string, to: string }[] }>()
const others = computed(() => props.pages.filter(({ title }) => title !== props.title))
</script>

<template>
  <h1>{{ title }}</h1>
  <nav
    class="kinds"
    :aria-label="family"
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
