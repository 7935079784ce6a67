<script setup lang="ts">
import { useCarrying } from '~/stores/carrying'
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'

const desk = useDesk()
const field = useField()
const carrying = useCarrying()
const route = useRoute()

// Opened by a tel: link: the number is in the field, and Enter calls it.
onMounted(() => {
  const { dial } = route.query
  if (typeof dial !== 'string') return
  field.type(dial.replace(/^tel:/i, '').slice(0, 60))
  void navigateTo('/', { replace: true })
})
</script>

<template>
  <div class="console">
    <h1 class="unseen">
      Console
    </h1>
    <template v-if="desk.device">
      <TheTrack />
      <ParkSlots />
    </template>
    <WhoIsItFor />
    <AnswerWindows />
    <TheFloor />
    <p
      v-if="carrying.words"
      class="carrying"
      role="status"
    >
      {{ carrying.words }}
    </p>
    <StoryDialog />
    <DigitsDialog />
    <MessageDialog />
    <BlockDialog />
  </div>
</template>

<style scoped>
.console {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}

.carrying {
  position: fixed;
  inset: auto 0 0;
  z-index: 10;
  padding: var(--space-4) var(--space-5);
  background: var(--ink);
  color: var(--paper);
  font-size: var(--type-4);
  text-align: center;
  pointer-events: none;
}
</style>
