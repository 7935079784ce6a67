<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { focusField } from '~/stores/dialogs'

/** What could not be done, on a slip of paper below the place where it was asked: nothing moves for it. */
const desk = useDesk()
</script>

<template>
  <p
    v-if="desk.notice"
    class="slip"
    role="alert"
  >
    {{ desk.notice }}
    <el-button
      text
      size="small"
      :aria-label="t('frame.closeTheMessage')"
      @click="desk.notice = null; focusField()"
    >
      {{ t('common.close') }}
    </el-button>
  </p>
</template>

<style scoped>
.slip {
  position: absolute;
  inset: 100% var(--space-4) auto;
  z-index: 5;
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: var(--space-2) var(--space-4);
  background: var(--sheet);
  border: var(--line);
  border-left: 4px solid var(--alarm);
  box-shadow: 0 4px 14px var(--shade);
  font-size: var(--type-4);
}
</style>
