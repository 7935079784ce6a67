<script setup lang="ts">
import { useThrottleFn } from '@vueuse/core'
import dayjs from 'dayjs'
import type { ParkingEnd } from '~~/core/calls/parkings'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~~/core/numbers/dialled'
import type { ParkingPage, ParkingRow } from '~~/shared/log'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: 'Parkings · Estafette' })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const rows = ref<ParkingRow[]>([])
const loading = ref(true)
const failure = ref<string | null>(null)

const ends: Record<ParkingEnd, (taker: string) => string> = {
  waiting: () => 'waits now',
  taken: taker => `taken by ${taker}`,
  cameBack: () => 'came back: nobody took it',
  sentOn: taker => `sent on${taker && ` to ${taker}`}`,
  gaveUp: () => 'the caller hung up',
  lost: () => 'lost: the exchange stopped',
}

async function load(): Promise<void> {
  loading.value = true
  try {
    rows.value = (await $fetch<ParkingPage>('/api/parkings')).rows
    failure.value = null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
  finally {
    loading.value = false
  }
}

const nameIn = (row: ParkingRow, device: string | null) => device ? row.names[device] ?? directory.nameOf(device) : ''
const who = (row: ParkingRow) => row.name ?? (row.number ? formatNumber(row.number) : row.names[row.caller] ?? 'Number withheld')

const follow = useThrottleFn(load, 1_000, true)
live.onHappening((happenings) => {
  if (happenings.some(({ event, before }) => event.type === 'parked' || before?.parked)) void follow()
})
onMounted(load)
</script>

<template>
  <div class="records-page">
    <h1>Parkings</h1>
    <FailureNote :text="failure" />
    <RecordsTable
      v-slot="{ row: row }"
      :columns="['When', 'Who', 'Where', 'Parked by', 'For', 'Waited', 'How it ended']"
      :rows="rows"
      :key-of="row => `${row.call} ${row.at}`"
      :empty="loading || failure ? null : 'Nobody has been parked yet. Every stay in a park slot stands here as soon as it begins.'"
    >
      <td>{{ dayjs(row.at).format('D MMM H:mm:ss') }}</td>
      <td><strong>{{ who(row) }}</strong></td>
      <td>{{ directory.nameOf(row.slot) }}</td>
      <td>{{ nameIn(row, row.by) }}</td>
      <td>{{ nameIn(row, row.for) || 'anybody' }}</td>
      <td>{{ spell((row.endedAt ?? desk.now) - row.at) }}</td>
      <td>{{ ends[row.end](nameIn(row, row.takenBy)) }}</td>
    </RecordsTable>
  </div>
</template>
