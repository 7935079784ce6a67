<script setup lang="ts">
/** What went wrong on a page of records, said at once; nothing while all is well. */
defineProps<{ text: string | null }>()
</script>

<template>
  <p
    v-if="text"
    class="failure"
    role="alert"
  >
    {{ text }}
  </p>
</template>
