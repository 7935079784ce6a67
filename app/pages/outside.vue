<script setup lang="ts">
import dayjs from 'dayjs'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~~/core/numbers/dialled'
import type { Connection } from '~~/core/calls/model'
import { outsideCalls } from '~~/core/calls/questions'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: 'Outside · Estafette' })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()

const rows = computed(() => live.state
  ? outsideCalls(live.state).map((call) => {
      const since = Math.max(...call.connections.map(connection => connection.since))
      const passed = call.story.findLast(step => live.state!.devices.get(step.device))
      return {
        id: call.id,
        parties: call.connections.map(nameOf),
        since,
        by: directory.nameOf(call.watched?.by ?? passed?.device ?? ''),
        ends: since + live.state!.company.settings.outsideLongest,
      }
    })
  : [])
const mayAct = computed(() => Boolean(desk.device && live.state?.agents.get(desk.device)))

function nameOf({ device, party }: Connection): string {
  const name = directory.nameOf(device, party)
  return party?.number && party.name ? `${name}, ${formatNumber(party.number)}` : name
}
</script>

<template>
  <div class="records-page">
    <h1>Talking outside</h1>
    <FailureNote :text="desk.notice" />
    <RecordsTable
      v-slot="{ row: row }"
      :columns="['Who with whom', 'For', 'Put through by', 'Ends by itself at', '-What can be done']"
      :rows="rows"
      :key-of="({ id }) => id"
      :empty="'Nobody. A caller handed on to a number outside, who is talking there through our lines, stands here until the two hang up.'"
    >
      <td><strong>{{ row.parties.join(' and ') }}</strong></td>
      <td>{{ spell(desk.now - row.since) }}</td>
      <td>{{ row.by }}</td>
      <td>{{ dayjs(live.wall(row.ends)).format('H:mm') }}</td>
      <td class="acts">
        <template v-if="mayAct">
          <el-button
            size="small"
            :disabled="!live.working"
            :aria-label="`Take back ${row.parties[0]}`"
            @click="desk.ask({ service: 'directedPickupCall', call: row.id })"
          >
            Take back
          </el-button>
          <el-button
            size="small"
            :disabled="!live.working"
            :aria-label="`End the call of ${row.parties.join(' and ')}`"
            @click="desk.ask({ service: 'clearCall', call: row.id })"
          >
            End for both
          </el-button>
        </template>
      </td>
    </RecordsTable>
  </div>
</template>
