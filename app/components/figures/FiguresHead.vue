<script setup lang="ts">
/** The head of every page of figures. */
defineProps<{ title: string }>()
const all = [
  { title: 'Look back', to: '/figures' }, { title: 'Look ahead', to: '/figures/ahead' }, { title: 'Watching', to: '/watch' },
  { title: 'Charges', to: '/charges' },
]
const pages = computed(() => all.filter(({ to }) => mayOpen(to)))
</script>

<template>
  <FamilyHead
    :title="title"
    family="Reports"
    :pages="pages"
  />
</template>
