<script setup lang="ts">
/** What is known of somebody, one thing to a line; what is not known is left out. */
const props = defineProps<{ facts: readonly { what: string, is: string }[] }>()
const known = computed(() => props.facts.filter(({ is }) => is !== ''))
</script>

<template>
  <dl>
    <template
      v-for="(fact, index) in known"
      :key="index"
    >
      <dt>{{ fact.what }}</dt>
      <dd>{{ fact.is }}</dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: var(--space-1) var(--space-4);
}

dt {
  color: var(--ink-soft);
}

dd {
  overflow-wrap: anywhere;
}
</style>
