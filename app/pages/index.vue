<script setup lang="ts">
import { useDesk } from '~/stores/desk'

const desk = useDesk()
</script>

<template>
  <div class="console">
    <h1 class="unseen">
      Console
    </h1>
    <TheTrack v-if="desk.device" />
    <WhoIsItFor />
    <AnswerWindows />
    <TheFloor />
  </div>
</template>

<style scoped>
.console {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
</style>
