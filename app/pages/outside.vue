<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import type { Connection } from '~~/core/calls/model'
import { outsideCalls } from '~~/core/calls/questions'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

useHead({ title: t('outside.outsideEstafette') })

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
      <h1>{{ t('common.outside') }}</h1>
    </div>
    <FailureNote :text="desk.notice" />
    <TrunksShelf />
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        :aria-label="t('outside.conversationsOutside')"
      >
        <RecordsTable
          v-slot="{ row: row }"
          :columns="[t('outside.whoWithWhom'), t('common.for'), t('outside.putThroughBy'), t('outside.endsByItselfAt'), `-${t('outside.whatCanBeDone')}`]"
          :rows="rows"
          :key-of="({ id }) => id"
          :class-of="({ id }) => id === chosen?.id ? 'chosen' : undefined"
          :empty="t('outside.nobodyACallerHandedOn')"
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
                :aria-label="t('outside.takeBack', { parties: row.parties[0]! })"
                @click="desk.ask({ service: 'directedPickupCall', call: row.id })"
              >
                {{ t('common.takeBack') }}
              </el-button>
              <el-button
                size="small"
                :disabled="!live.working"
                :aria-label="t('outside.endTheCallOf', { parties: row.parties.join(' and ') })"
                @click="desk.ask({ service: 'clearCall', call: row.id })"
              >
                {{ t('outside.endForBoth') }}
              </el-button>
            </template>
          </td>
        </RecordsTable>
      </div>
      <aside
        class="details"
        :aria-label="t('outside.theChosenConversation')"
      >
        <template v-if="chosen">
          <h2>{{ chosen.parties.join(' and ') }}</h2>
          <p class="soft">
            {{ t('outside.putThroughByEndsBy', { by: chosen.by, at: shownAt(live.wall(chosen.ends)).format('H:mm') }) }}
          </p>
          <h3>{{ t('common.whatHappened') }}</h3>
          <CallStory :call="chosen.call" />
        </template>
        <template v-else>
          <h2>{{ t('outside.twoOutsideThroughUs') }}</h2>
          <p class="soft">
            {{ t('outside.whoeverPassesACallerOn') }}
          </p>
        </template>
      </aside>
    </div>
  </div>
</template>
