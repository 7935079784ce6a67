<script setup lang="ts">
import type { CallBack } from '~~/core/calls/model'
import { openPromises } from '~~/core/console/call-backs'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: t('callBacks.callBacksEstafette') })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const dialogs = useDialogs()
const { callerOf, standing, ending } = useCallBackWords()

const open = computed(() => live.state ? openPromises(live.state) : [])
const over = computed(() => [...live.state?.callBacksOver ?? []].reverse())
const kinds = [{ value: 'open', label: t('callBacks.promised') }, { value: 'over', label: t('common.done') }] as const
const kind = ref<'open' | 'over'>('open')
const rows = computed(() => kind.value === 'open' ? open.value : over.value)
const chosenId = ref<string | null>(null)
/** The one chosen, also when it is done meanwhile: what is pressed beside it is never suddenly about somebody else. */
const chosen = computed<CallBack | null>(() => [...open.value, ...over.value].find(({ id }) => id === chosenId.value) ?? null)
watch([kind, () => rows.value.length > 0], () => {
  if (!rows.value.some(({ id }) => id === chosenId.value)) chosenId.value = rows.value[0]?.id ?? null
}, { immediate: true })
const empty = computed(() => kind.value === 'open'
  ? t('callBacks.nobodyIsPromisedACall')
  : t('callBacks.noneIsDoneYet'))
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('callBacks.callBacks') }}</h1>
      <el-radio-group
        v-model="kind"
        :aria-label="t('callBacks.whichCallBacks')"
      >
        <el-radio-button
          v-for="option in kinds"
          :key="option.value"
          :value="option.value"
        >
          {{ option.label }}
        </el-radio-button>
      </el-radio-group>
      <el-button
        v-if="desk.operates"
        :disabled="!live.working"
        @click="dialogs.callBack = { number: '', name: '', line: null }"
      >
        {{ t('callBacks.promiseOne') }}
      </el-button>
    </div>
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        :aria-label="t('callBacks.callBacksInTheirTurn')"
      >
        <RecordsTable
          v-slot="{ row: row }"
          :columns="[t('common.who'), t('common.number'), t('common.for'), t('callBacks.waits'), t('callBacks.howItStands')]"
          :rows="rows"
          :key-of="row => row.id"
          :class-of="row => row.id === chosen?.id ? 'chosen' : undefined"
          :empty="empty"
        >
          <td>
            <button
              type="button"
              class="choose"
              :aria-pressed="row.id === chosen?.id"
              @click="chosenId = row.id"
            >
              {{ callerOf(row) }}
            </button>
          </td>
          <td class="number">
            {{ row.party.number ? formatNumber(row.party.number) : '' }}
          </td>
          <td>{{ directory.nameOf(row.queue) }}</td>
          <td :class="{ late: row.late && !row.end }">
            {{ spell((row.endedAt ?? desk.now) - row.since) }}{{ row.late && !row.end ? t('callBacks.late') : '' }}
          </td>
          <td>{{ row.end ? ending(row) : standing(row) }}</td>
        </RecordsTable>
      </div>
      <CallBackDetails
        v-if="chosen"
        :promise="chosen"
      />
    </div>
  </div>
</template>

<style scoped>
.number {
  white-space: nowrap;
}

.late {
  color: var(--alarm);
  font-weight: 700;
}
</style>
