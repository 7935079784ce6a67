<script setup lang="ts">
/** The head of every page of what calls have been; the log itself stands above, on every page. */
defineProps<{ title: string }>()
const pages = computed(() => [{ title: t('common.parkings'), to: '/parkings' },
  { title: t('log.blockedNumbers'), to: '/blocked' }, { title: t('recordings.recordings'), to: '/recordings' }].filter(({ to }) => mayOpen(to)))
</script>

<template>
  <FamilyHead
    :title="title"
    :family="t('log.callsThatWere')"
    :pages="pages"
  />
</template>
