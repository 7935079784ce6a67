<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import type { LogRow } from '~~/shared/log'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

defineProps<{ rows: LogRow[], chosen: string | null }>()
const emit = defineEmits<{ choose: [id: string] }>()
const directory = useDirectory()
const live = useLive()

const ways = { inbound: t('log.in'), outbound: t('log.out'), internal: t('log.inside') } as const
/** Whom they wanted: the line they called, or whoever was called from here. */
function wanted(row: LogRow): string {
  if (row.line) return directory.line(row.line)?.name ?? row.line
  if (row.direction === 'inbound') return formatNumber(row.dialled)
  const reached = row.story.find(({ type }) => type === 'delivered' || type === 'failed' || type === 'queued')
  return say((reached && row.names[reached.device]) ?? '')
}
/** Today's calls by the time alone. */
const when = (at: number) => shownAt(at).format(shownAt(at).isSame(shownAt(live.wall(live.now())), 'day') ? 'H:mm:ss' : 'D MMM H:mm')
const talked = (row: LogRow) => row.answeredAt && row.endedAt ? spell(row.endedAt - row.answeredAt) : ''
</script>

<template>
  <RecordsTable
    class="log"
    :columns="[t('common.when'), t('log.way'), t('common.who'), t('log.wanted'), t('log.whatBecameOfIt'), t('log.waited'), t('log.talked')]"
    :rows="rows"
    :key-of="row => row.id"
    :empty="null"
    :class-of="row => [isMissed(row) && 'missed', chosen === row.id && 'chosen'].filter(Boolean).join(' ')"
    whole
    @choose="emit('choose', $event.id)"
  >
    <template #default="{ row }">
      <td class="when">
        {{ when(row.startedAt) }}
      </td>
      <td>{{ ways[row.direction] }}</td>
      <td class="who">
        <button
          type="button"
          class="choose"
          :aria-pressed="chosen === row.id"
          :aria-label="t('log.storyOfTheCallWith', { whoCalled: whoCalled(row) })"
          @click.stop="emit('choose', row.id)"
        >
          {{ whoCalled(row) }}
        </button>
        <span
          v-if="row.name && row.number"
          class="soft"
        >{{ formatNumber(row.number) }}</span>
      </td>
      <td>{{ wanted(row) }}{{ row.account ? t('log.accountAccount', { account: row.account }) : '' }}</td>
      <td class="became">
        {{ becameOf(row) }}<template v-if="row.dealtWith">
          {{ t('log.moreByBy', { more: row.dealtWith.calledBack ? t('log.calledBack') : t('log.dealtWith'), by: row.dealtWith.by }) }}
        </template>
      </td>
      <td class="number">
        {{ row.answeredAt ? spell(row.answeredAt - row.startedAt) : row.endedAt ? spell(row.endedAt - row.startedAt) : '' }}
      </td>
      <td class="number">
        {{ talked(row) }}
      </td>
    </template>
  </RecordsTable>
</template>

<style scoped>
.log :deep(th) {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--paper);
}

.log :deep(tbody tr) {
  cursor: pointer;
}

.log :deep(tbody tr:hover) {
  background: var(--paper-deep);
}

.when,
.who .choose,
.number {
  white-space: nowrap;
}

.log .number {
  text-align: right;
}

.log :deep(th:nth-last-child(-n + 2)) {
  text-align: right;
}

.who .soft {
  padding-left: var(--space-3);
  white-space: nowrap;
}

.log :deep(.missed) .became {
  font-weight: 700;
}

.log :deep(.missed td:first-child) {
  box-shadow: inset 3px 0 0 var(--call);
}

@media (max-width: 40rem) {
  .when,
  .who .choose,
  .number {
    white-space: normal;
  }

  .log .number {
    text-align: left;
  }
}
</style>
