<script setup lang="ts">
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: t('blocked.blockedNumbersEstafette') })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const form = reactive({ number: '', reason: '' })

const blocks = computed(() => [...live.state?.blocked.entries() ?? []]
  .map(([number, block]) => ({ number, ...block }))
  .sort((a, b) => b.at - a.at))

async function block(): Promise<void> {
  if (!form.number.trim() || !form.reason.trim()) {
    desk.notice = t('blocked.fillInBothTheNumber')
    return
  }
  if (await desk.ask({ service: 'blockNumber', number: form.number, reason: form.reason })) Object.assign(form, { number: '', reason: '' })
}

/** The keyboard goes on at the form: the button that was pressed is gone with its row. */
const number = useTemplateRef<{ focus: () => void }>('number')
async function lift(of: string): Promise<void> {
  await desk.ask({ service: 'unblockNumber', number: of })
  number.value?.focus()
}
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <LogHead :title="t('blocked.blockedNumbers')" />
    </div>
    <div class="panes">
      <div class="list">
        <RecordsTable
          v-slot="{ row: entry }"
          :columns="[t('common.number'), t('blocked.reason'), t('blocked.blockedBy'), t('blocked.since'), `-${t('blocked.lift')}`]"
          :rows="blocks"
          :key-of="({ number }) => number"
          :empty="t('blocked.noNumberIsBlockedA')"
        >
          <td><strong>{{ formatNumber(entry.number) }}</strong></td>
          <td>{{ entry.reason }}</td>
          <td>{{ directory.nameOf(entry.by) }}</td>
          <td>{{ shownAt(live.wall(entry.at)).format('D MMM H:mm') }}</td>
          <td>
            <el-button
              v-if="desk.operates"
              size="small"
              :disabled="!live.working"
              :aria-label="t('blocked.liftTheBlockOf', { number: formatNumber(entry.number) })"
              @click="lift(entry.number)"
            >
              {{ t('blocked.lift2') }}
            </el-button>
          </td>
        </RecordsTable>
      </div>
      <aside
        class="details"
        aria-labelledby="block-title"
      >
        <h2 id="block-title">
          {{ t('blocked.blockANumber') }}
        </h2>
        <p class="soft">
          {{ t('blocked.itsCallsHearASentence') }}
        </p>
        <form
          v-if="desk.operates"
          @submit.prevent="block"
        >
          <label for="block-number">{{ t('common.number') }}</label>
          <el-input
            id="block-number"
            ref="number"
            v-model="form.number"
            maxlength="40"
          />
          <label for="block-why">{{ t('blocked.reason') }}</label>
          <el-input
            id="block-why"
            v-model="form.reason"
            maxlength="80"
          />
          <el-button
            native-type="submit"
            :disabled="!live.working"
          >
            {{ t('blocked.block') }}
          </el-button>
        </form>
        <p v-else>
          {{ t('blocked.operatorsBlockNumbers') }}
        </p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  padding: var(--space-4) 0;
}

label {
  padding-top: var(--space-3);
  font-weight: 600;
}

form .el-button {
  margin-top: var(--space-4);
}
</style>
