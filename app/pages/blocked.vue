<script setup lang="ts">
import dayjs from 'dayjs'
import { formatNumber } from '~~/core/numbers/dialled'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: 'Blocked numbers · Estafette' })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const form = reactive({ number: '', reason: '' })

const blocks = computed(() => [...live.state?.blocked.entries() ?? []]
  .map(([number, block]) => ({ number, ...block }))
  .sort((a, b) => b.at - a.at))
const maySet = computed(() => Boolean(desk.device && live.state?.agents.has(desk.device)))

async function block(): Promise<void> {
  if (!form.number.trim() || !form.reason.trim()) {
    desk.notice = 'Fill in both: the number, and the reason, so that others understand it later.'
    return
  }
  if (await desk.ask({ service: 'blockNumber', number: form.number, reason: form.reason })) Object.assign(form, { number: '', reason: '' })
}
</script>

<template>
  <div class="records-page">
    <h1>Blocked numbers</h1>
    <form
      v-if="maySet"
      class="add"
      @submit.prevent="block"
    >
      <label for="block-number">Number</label>
      <el-input
        id="block-number"
        v-model="form.number"
        maxlength="40"
      />
      <label for="block-why">Reason</label>
      <el-input
        id="block-why"
        v-model="form.reason"
        maxlength="80"
      />
      <el-button
        native-type="submit"
        :disabled="!live.working"
      >
        Block
      </el-button>
    </form>
    <FailureNote :text="desk.notice" />
    <RecordsTable
      v-slot="{ row: entry }"
      :columns="['Number', 'Reason', 'Blocked by', 'Since', '-Lift']"
      :rows="blocks"
      :key-of="({ number }) => number"
      :empty="'No number is blocked. A call\'s menu blocks its number, or fill it in above.'"
    >
      <td><strong>{{ formatNumber(entry.number) }}</strong></td>
      <td>{{ entry.reason }}</td>
      <td>{{ directory.nameOf(entry.by) }}</td>
      <td>{{ dayjs(live.wall(entry.at)).format('D MMM H:mm') }}</td>
      <td>
        <el-button
          v-if="maySet"
          size="small"
          :disabled="!live.working"
          :aria-label="`Lift the block of ${formatNumber(entry.number)}`"
          @click="desk.ask({ service: 'unblockNumber', number: entry.number })"
        >
          Lift
        </el-button>
      </td>
    </RecordsTable>
  </div>
</template>

<style scoped>
.add {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--space-3);
  padding-bottom: var(--space-4);
}

.add .el-input {
  width: 14rem;
}
</style>
