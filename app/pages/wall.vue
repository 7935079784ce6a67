<script setup lang="ts">
useHead({ title: t('wall.estafetteForAWall') })
</script>

<template>
  <div class="on-the-wall">
    <h1 class="unseen">
      {{ t('common.watching') }}
    </h1>
    <WatchWall />
  </div>
</template>

<style scoped>
.on-the-wall {
  display: flex;
  flex: 1;
  min-height: 0;
}
</style>
