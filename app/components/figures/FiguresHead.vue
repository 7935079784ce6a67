<script setup lang="ts">
/** The head of every page of figures. */
defineProps<{ title: string }>()
const all = [
  { title: t('figures.lookBack'), to: '/figures' }, { title: t('figures.lookAhead'), to: '/figures/ahead' }, { title: t('common.watching'), to: '/watch' },
  { title: t('figures.charges'), to: '/charges' },
]
const pages = computed(() => all.filter(({ to }) => mayOpen(to)))
</script>

<template>
  <FamilyHead
    :title="title"
    :family="t('figures.reports')"
    :pages="pages"
  />
</template>
