<script setup lang="ts" generic="Row extends object">
/** Records, one to a row: the slot holds the cells of one. While there is none, a sentence says what will stand here. Of very many the first are shown. */
const props = defineProps<{
  /** What stands over each column; what begins with "-" is for screen readers alone. */
  columns: readonly string[]
  rows: readonly Row[]
  keyOf: (row: Row) => string
  /** null: not known yet. */
  empty: string | null
  classOf?: (row: Row) => string | undefined
  /** All are shown: they come page by page already. */
  whole?: boolean
}>()
const emit = defineEmits<{ choose: [row: Row] }>()
const step = 100
const most = ref(step)
const shown = computed(() => props.whole ? props.rows : props.rows.slice(0, most.value))

/** Where there is no room for columns each record is a card: its cells say what they are, and the whole is a table to who hears it all the same. */
function vTold(table: HTMLTableElement, { value: columns }: { value: readonly string[] }): void {
  table.setAttribute('role', 'table')
  for (const row of table.rows) {
    row.setAttribute('role', 'row')
    for (const [at, cell] of [...row.cells].entries()) {
      cell.setAttribute('role', cell.tagName === 'TD' ? 'cell' : cell.scope === 'row' ? 'rowheader' : 'columnheader')
      cell.setAttribute('data-told', columns[at]?.startsWith('-') ? '' : columns[at] ?? '')
    }
  }
}
</script>

<template>
  <table
    v-if="rows.length"
    v-told="columns"
    class="records as-cards"
  >
    <thead>
      <tr>
        <th
          v-for="column in columns"
          :key="column"
          scope="col"
        >
          <span :class="{ unseen: column.startsWith('-') }">{{ column.replace(/^-/, '') }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="row in shown"
        :key="keyOf(row)"
        :class="classOf?.(row)"
        @click="emit('choose', row)"
      >
        <slot :row="row" />
      </tr>
    </tbody>
    <tfoot v-if="rows.length > shown.length">
      <tr>
        <td :colspan="columns.length">
          {{ t('records.countOfCount2', { count: shown.length, count2: rows.length }) }}
          <el-button
            size="small"
            @click="most += step"
          >
            {{ t('records.more') }}
          </el-button>
        </td>
      </tr>
    </tfoot>
  </table>
  <p
    v-else-if="empty"
    class="empty"
  >
    {{ empty }}
  </p>
</template>
