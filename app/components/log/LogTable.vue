<script setup lang="ts">
import dayjs from 'dayjs'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~~/core/numbers/dialled'
import { tellStory } from '~~/core/calls/story'
import type { LogRow } from '~~/shared/log'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

defineProps<{ rows: LogRow[] }>()
const directory = useDirectory()
const desk = useDesk()
const live = useLive()
const open = ref<string | null>(null)

/** Calls back, or calls again whom one has called; the console then shows the call. */
async function call(row: LogRow): Promise<void> {
  const number = row.direction === 'inbound' || row.devices[0] !== desk.device ? row.number! : row.dialled
  await desk.ask({ service: 'makeCall', number })
  await navigateTo('/')
}

const ways = { inbound: 'In', outbound: 'Out', internal: 'Inside' } as const
</script>

<template>
  <table>
    <thead>
      <tr>
        <th scope="col">
          When
        </th>
        <th scope="col">
          Way
        </th>
        <th scope="col">
          Who
        </th>
        <th scope="col">
          Line
        </th>
        <th scope="col">
          What became of it
        </th>
        <th
          scope="col"
          class="number"
        >
          Waited
        </th>
        <th
          scope="col"
          class="number"
        >
          Talked
        </th>
        <th scope="col">
          <span class="unseen">Story</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <template
        v-for="row in rows"
        :key="row.id"
      >
        <tr :class="row.outcome">
          <td>{{ dayjs(row.startedAt).format('D MMM H:mm:ss') }}</td>
          <td>{{ ways[row.direction] }}</td>
          <td>
            <strong>{{ whoCalled(row) }}</strong> <span
              v-if="row.name && row.number"
              class="soft"
            >{{ formatNumber(row.number) }}</span>
          </td>
          <td>{{ directory.line(row.line)?.name ?? formatNumber(row.dialled) }}{{ row.account ? ` · account ${row.account}` : '' }}</td>
          <td class="became">
            {{ becameOf(row) }}
          </td>
          <td class="number">
            {{ row.answeredAt ? spell(row.answeredAt - row.startedAt) : row.endedAt ? spell(row.endedAt - row.startedAt) : '' }}
          </td>
          <td class="number">
            {{ row.answeredAt && row.endedAt ? spell(row.endedAt - row.answeredAt) : '' }}
          </td>
          <td>
            <el-button
              v-if="desk.device && row.number && row.number !== desk.device"
              text
              size="small"
              :disabled="!live.working"
              :aria-label="`Call ${whoCalled(row)}`"
              @click="call(row)"
            >
              Call
            </el-button>
            <el-button
              text
              size="small"
              :aria-expanded="open === row.id"
              :aria-label="`Story of the call with ${whoCalled(row)}`"
              @click="open = open === row.id ? null : row.id"
            >
              Story
            </el-button>
          </td>
        </tr>
        <tr
          v-if="open === row.id"
          class="story"
        >
          <td colspan="8">
            <ol>
              <li
                v-for="(line, index) in tellStory(row.story, nameIn(row))"
                :key="index"
              >
                <span class="soft">{{ dayjs(line.at).format('H:mm:ss') }}</span> {{ line.text }} <span
                  v-if="line.lasted"
                  class="soft"
                >{{ spell(line.lasted) }}</span>
              </li>
            </ol>
          </td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  background: var(--sheet);
}

th,
td {
  padding: var(--space-2) var(--space-3);
  text-align: left;
  border-bottom: var(--line);
}

th {
  position: sticky;
  top: calc(-1 * var(--space-4));
  z-index: 1;
  background: var(--paper);
  color: var(--ink-soft);
  font-weight: 600;
}

.number {
  text-align: right;
}

.soft {
  color: var(--ink-soft);
}

.missed td,
.lost td {
  background: var(--paper-deep);
}

.missed .became,
.lost .became {
  font-weight: 700;
}

.story td {
  padding: var(--space-3) var(--space-6) var(--space-4);
}

.story ol {
  display: grid;
  gap: var(--space-1);
}

@media (max-width: 40rem) {
  table,
  tbody,
  tr,
  td {
    display: block;
  }

  thead {
    display: none;
  }

  tr {
    padding: var(--space-3);
    border-bottom: var(--line);
  }

  td {
    padding: 0;
    border: 0;
    text-align: left;
  }
}
</style>
