<script setup lang="ts">
import { keyStrokes } from '~~/core/speed-keys/key'
import { useSpeedKeys } from '~/stores/speed-keys'

/** One page of speed keys along the floor's edge. */
const speedKeys = useSpeedKeys()
</script>

<template>
  <section
    v-if="speedKeys.pinned"
    class="pinned"
    :aria-label="t('speedKeys.keysName', { name: speedKeys.pinned.name })"
  >
    <ol>
      <li
        v-for="(key, index) in speedKeys.pinned.keys"
        :key="`${index} ${key.kind} ${key.of}`"
      >
        <SpeedKeyButton
          :speed-key="key"
          :stroke="keyStrokes[index]!"
          :awaited="speedKeys.awaits === 'key' && speedKeys.open?.id === speedKeys.pinned.id"
        />
      </li>
    </ol>
  </section>
</template>

<style scoped>
.pinned {
  flex: none;
  padding: var(--space-2) var(--space-4);
  background: var(--paper-deep);
}

ol {
  display: flex;
  gap: var(--space-2);
  overflow-x: auto;
  scrollbar-width: thin;
}

li {
  flex: none;
  width: 8.25rem;
}
</style>
