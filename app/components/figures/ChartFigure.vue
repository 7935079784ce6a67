<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'

/** One chart: what it shows, what it says in words, and beneath it the same as a table and as a file. */
const props = defineProps<{
  title: string
  words: string
  /** Why it says little, if it does. */
  warning?: string | null
  legend?: readonly { name: string, shade: string }[]
  /** The same shows an earlier period too. */
  compared?: boolean
  columns: readonly string[]
  rows: readonly (readonly (string | number)[])[]
  file?: string
  wide?: boolean
  /** The table is shown at once. */
  open?: boolean
}>()
const id = useId()
/** On paper nobody opens anything. */
const printed = useMediaQuery('print')
</script>

<template>
  <section
    :class="['figure', { wide }]"
    :aria-labelledby="id"
  >
    <h2 :id="id">
      {{ title }}
    </h2>
    <p class="words">
      {{ words }} <strong v-if="warning">{{ warning }}</strong>
    </p>
    <ul
      v-if="legend || compared"
      class="legend"
      aria-hidden="true"
    >
      <li
        v-for="one in legend ?? []"
        :key="one.shade"
      >
        <i :class="`shade-${one.shade}`" />{{ one.name }}
      </li>
      <li v-if="compared">
        <i class="earlier" />{{ t('figures.inTheEarlierPeriod') }}
      </li>
    </ul>
    <slot v-if="props.rows.length" />
    <details
      v-if="props.rows.length"
      :open="open || printed"
    >
      <summary>{{ t('figures.tableOf', { title: title.toLowerCase() }) }}</summary>
      <div
        class="scroll"
        tabindex="0"
        role="group"
        :aria-label="t('figures.tableOf', { title: title.toLowerCase() })"
      >
        <table class="records">
          <thead>
            <tr>
              <th
                v-for="column in columns"
                :key="column"
                scope="col"
              >
                {{ column }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(row, at) in rows"
              :key="at"
            >
              <component
                :is="column === 0 ? 'th' : 'td'"
                v-for="(cell, column) in row"
                :key="column"
                :scope="column === 0 ? 'row' : undefined"
              >
                {{ cell }}
              </component>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
    <a
      v-if="file && props.rows.length"
      class="file"
      :href="file"
      download
    >{{ t('common.giveOutAsCsv') }}<span class="unseen">, {{ title.toLowerCase() }}</span></a>
  </section>
</template>

<style scoped>
.figure {
  display: grid;
  gap: var(--space-2);
  align-content: start;
  padding: var(--space-4) var(--space-5);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round);
  break-inside: avoid;
}

.wide {
  grid-column: 1 / -1;
}

h2 {
  font: 700 var(--type-4) var(--font-sign);
}

.words {
  min-height: 2.5em;
  color: var(--ink-soft);
}

.words strong {
  color: var(--alarm);
}

summary {
  cursor: pointer;
}

.file {
  justify-self: start;
  color: var(--ink);
}

.scroll {
  max-height: 16rem;
  overflow: auto;
}

@media print {
  .scroll {
    max-height: none;
  }

  .file {
    display: none;
  }
}
</style>
