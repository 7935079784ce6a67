<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
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
        call,
        parties: call.connections.map(nameOf),
        since,
        by: directory.nameOf(call.watched?.by ?? passed?.device ?? ''),
        ends: since + live.company!.settings.outsideLongest,
      }
    })
  : [])
const chosenId = ref<string | null>(null)
/** The conversation chosen, or the first. */
const chosen = computed(() => rows.value.find(({ id }) => id === chosenId.value) ?? rows.value[0] ?? null)

function nameOf({ device, party }: Connection): string {
  const name = directory.nameOf(device, party)
  return party?.number && party.name ? `${name}, ${formatNumber(party.number)}` : name
}
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Outside</h1>
    </div>
    <FailureNote :text="desk.notice" />
    <TrunksShelf />
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        aria-label="Conversations outside"
      >
        <RecordsTable
          v-slot="{ row: row }"
          :columns="['Who with whom', 'For', 'Put through by', 'Ends by itself at', '-What can be done']"
          :rows="rows"
          :key-of="({ id }) => id"
          :class-of="({ id }) => id === chosen?.id ? 'chosen' : undefined"
          :empty="'Nobody. A caller handed on to a number outside, who is talking there through our lines, stands here until the two hang up.'"
        >
          <td>
            <button
              type="button"
              class="choose"
              :aria-pressed="row.id === chosen?.id"
              @click="chosenId = row.id"
            >
              {{ row.parties.join(' and ') }}
            </button>
          </td>
          <td>{{ spell(desk.now - row.since) }}</td>
          <td>{{ row.by }}</td>
          <td>{{ shownAt(live.wall(row.ends)).format('H:mm') }}</td>
          <td class="acts">
            <template v-if="desk.operates">
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
      <aside
        class="details"
        aria-label="The chosen conversation"
      >
        <template v-if="chosen">
          <h2>{{ chosen.parties.join(' and ') }}</h2>
          <p class="soft">
            Put through by {{ chosen.by }}; ends by itself at {{ shownAt(live.wall(chosen.ends)).format('H:mm') }}, unless they hang up before.
          </p>
          <h3>What happened</h3>
          <CallStory :call="chosen.call" />
        </template>
        <template v-else>
          <h2>Two outside, through us</h2>
          <p class="soft">
            Whoever passes a caller on to a number outside stays answerable for a while: the caller can be taken back, and nobody holds two of our lines
            for ever.
          </p>
        </template>
      </aside>
    </div>
  </div>
</template>
