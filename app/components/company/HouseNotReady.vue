<script setup lang="ts">
import { lacking } from '~~/core/company/readiness'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

/** A house that can't answer a call yet says so to whoever can change that, and leads there. */
const live = useLive()
const session = useSession()
const shown = computed(() => session.may('runCompany') && live.company !== undefined && lacking(live.company).length > 0)
</script>

<template>
  <p
    v-if="shown"
    class="not-ready"
  >
    <strong>This house can't answer a call yet.</strong>
    <span>The first hour leads there, step by step; it can be left and gone on with.</span>
    <el-button
      type="primary"
      @click="navigateTo('/first-hour')"
    >
      First hour
    </el-button>
  </p>
</template>

<style scoped>
.not-ready {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3) var(--space-5);
  align-items: center;
  padding: var(--space-4) var(--space-5);
  background: var(--lit);
  border-bottom: var(--line);
}
</style>
