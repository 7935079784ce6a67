<script setup lang="ts">
/** The head of every page of what calls have been; the log itself stands above, on every page. */
defineProps<{ title: string }>()
const pages = computed(() => [{ title: 'Parkings', to: '/parkings' }, { title: 'Blocked numbers', to: '/blocked' }].filter(({ to }) => mayOpen(to)))
</script>

<template>
  <FamilyHead
    :title="title"
    family="Calls that were"
    :pages="pages"
  />
</template>
