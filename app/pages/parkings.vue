<script setup lang="ts">
import { useThrottleFn } from '@vueuse/core'
import type { ParkingEnd } from '~~/core/calls/parking/parkings'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import type { LogPage, LogRow, ParkingPage, ParkingRow } from '~~/shared/log'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: t('parkings.parkingsEstafette') })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const rows = ref<ParkingRow[]>([])
const loading = ref(true)
const failure = ref<string | null>(null)

const ends: Record<ParkingEnd, (taker: string) => string> = {
  waiting: () => t('parkings.waitsNow'),
  taken: taker => t('parkings.takenBy', { taker }),
  cameBack: () => t('parkings.cameBackNobodyTookIt'),
  sentOn: taker => t('parkings.sentOn', { taker: taker && t('parkings.toTaker', { taker }) }),
  gaveUp: () => t('parkings.theCallerHungUp'),
  lost: () => t('parkings.lostTheExchangeStopped'),
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

const nameThen = (row: ParkingRow, device: string | null) => device ? say(row.names[device] ?? directory.nameOf(device)) : ''
const who = (row: ParkingRow) => row.name ?? (row.number ? formatNumber(row.number) : say(row.names[row.caller] ?? t('common.numberWithheld')))

const nobody = t('parkings.nobodyHasBeenParkedYet')
const keyOf = (row: ParkingRow) => `${row.call} ${row.at}`
const chosenKey = ref<string | null>(null)
/** The parking chosen, or the latest. */
const chosen = computed(() => rows.value.find(row => keyOf(row) === chosenKey.value) ?? rows.value[0] ?? null)
const call = ref<LogRow | null>(null)
async function tell(): Promise<void> {
  const id = chosen.value?.call
  if (!id) return
  try {
    const { rows: [found] } = await $fetch<LogPage>('/api/calls', { query: { call: id } })
    if (id === chosen.value?.call) call.value = found ?? null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}
watch(() => [chosen.value?.call, chosen.value?.end], tell)

const follow = useThrottleFn(load, 1_000, true)
live.onHappening((happenings) => {
  if (happenings.some(({ event, before }) => event.type === 'parked' || before?.parked)) void follow()
})
onMounted(load)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <LogHead :title="t('common.parkings')" />
    </div>
    <FailureNote :text="failure" />
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        :aria-label="t('parkings.parkingsTheLatestFirst')"
      >
        <RecordsTable
          v-slot="{ row: row }"
          :columns="[t('common.when'), t('common.who'), t('parkings.where'), t('parkings.parkedBy'), t('parkings.keptFor'), t('parkings.waited'),
                     t('parkings.howItEnded')]"
          :rows="rows"
          :key-of="keyOf"
          :class-of="row => chosen && keyOf(row) === keyOf(chosen) ? 'chosen' : row.end"
          :empty="loading || failure ? null : nobody"
        >
          <td>{{ shownAt(row.at).format('D MMM H:mm:ss') }}</td>
          <td>
            <button
              type="button"
              class="choose"
              :aria-pressed="chosen !== null && keyOf(row) === keyOf(chosen)"
              @click="chosenKey = keyOf(row)"
            >
              {{ who(row) }}
            </button>
          </td>
          <td>{{ directory.nameOf(row.slot) }}</td>
          <td>{{ nameThen(row, row.by) }}</td>
          <td>{{ nameThen(row, row.for) || t('parkings.anybody') }}</td>
          <td>{{ spell((row.endedAt ?? desk.now) - row.at) }}</td>
          <td>{{ ends[row.end](nameThen(row, row.takenBy)) }}</td>
        </RecordsTable>
      </div>
      <CallDetails
        v-if="chosen && call"
        :row="call"
        @changed="tell"
      />
    </div>
  </div>
</template>
