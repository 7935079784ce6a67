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
    <strong>{{ t('company.thisHouseCantAnswerA') }}</strong>
    <span>{{ t('company.theFirstHourLeadsThere') }}</span>
    <el-button
      type="primary"
      @click="navigateTo('/first-hour')"
    >
      {{ t('company.firstHour') }}
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
