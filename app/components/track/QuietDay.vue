<script setup lang="ts">
import { share } from '~~/core/figures/words'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'

/** While nobody waits: how the lines that the operator serves stand today. */
const live = useLive()
const desk = useDesk()
const queues = useQueues()
const rows = computed(() => {
  const unserved = desk.device ? live.state?.agents.get(desk.device)?.unserved ?? {} : {}
  return Object.values(live.company?.lines ?? {}).filter(({ id }) => !(id in unserved)).map(({ id, name }) => {
    const { offered = 0, answered = 0, abandoned = 0, level = null } = queues.today[id] ?? {}
    return { id, name, offered, answered, abandoned, level: level === null ? '–' : share(level) }
  })
})
</script>

<template>
  <table>
    <caption>{{ t('track.todayOnYourLines') }}</caption>
    <thead>
      <tr>
        <th scope="col">
          <span class="unseen">{{ t('common.line') }}</span>
        </th>
        <th scope="col">
          {{ t('track.called') }}
        </th>
        <th scope="col">
          {{ t('track.answered') }}
        </th>
        <th scope="col">
          {{ t('track.gaveUp') }}
        </th>
        <th scope="col">
          {{ t('track.within') }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="one in rows"
        :key="one.id"
      >
        <th scope="row">
          {{ one.name }}
        </th>
        <td>{{ one.offered }}</td>
        <td>{{ one.answered }}</td>
        <td>{{ one.abandoned }}</td>
        <td>{{ one.level }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  color: var(--ink-soft);
  font-size: var(--type-2);
  font-variant-numeric: tabular-nums;
}

caption {
  padding-bottom: var(--space-1);
  font: 600 var(--type-2) var(--font-sign);
  text-align: left;
}

th,
td {
  padding: var(--space-1) var(--space-3);
  border-bottom: 1px solid var(--edge);
  text-align: right;
}

th {
  font-weight: 400;
}

th:first-child {
  padding-left: 0;
  text-align: left;
}

tbody th {
  color: var(--ink);
}
</style>
