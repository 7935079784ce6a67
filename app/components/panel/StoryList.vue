<script setup lang="ts">
/** A call's story: when (milliseconds since 1970), what, and how long it lasted. */
defineProps<{ lines: readonly { at: number, text: string, lasted: string }[] }>()
</script>

<template>
  <ol>
    <li
      v-for="(line, index) in lines"
      :key="index"
    >
      <span class="soft">{{ shownAt(line.at).format('H:mm:ss') }}</span>
      <span>{{ line.text }}</span>
      <span class="soft">{{ line.lasted }}</span>
    </li>
  </ol>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 4rem 1fr auto;
  gap: var(--space-3);
  padding: var(--space-1) 0;
  border-bottom: var(--line);
}

.soft {
  color: var(--ink-soft);
}
</style>
