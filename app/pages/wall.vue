<script setup lang="ts">
useHead({ title: 'Estafette, for a wall' })
</script>

<template>
  <div class="on-the-wall">
    <h1 class="unseen">
      Watching
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
