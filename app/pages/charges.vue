<script setup lang="ts">
import { accountCodeOf } from '~~/core/company/lookups'
import { formatNumber } from '~/composables/numbers'
import { spell } from '~~/core/durations/durations'
import type { Charge, Charges } from '~~/shared/charges'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

useHead({ title: t('charges.chargesEstafette') })

/** What calls outside are put down to, by account code and period: to be corrected, given out and printed. */
const live = useLive()
const desk = useDesk()
const period = usePeriod(today => [today.startOf('month').toDate(), today.toDate()])
/** Only calls of a code; `none`: of none. */
const code = ref('')
const answer = ref<Charges | null>(null)
const failure = ref<string | null>(null)
const changing = ref<string | null>(null)
let asked = 0

const query = computed(() => ({ from: asDay(period.value[0]), to: asDay(period.value[1]), ...code.value && { code: code.value } }))
const file = computed(() => `/api/charges/export?${new URLSearchParams(query.value).toString()}`)
const listed = computed(() => Object.values(live.company?.accountCodes ?? {}))
const nameOf = (of: string) => of === '' ? t('charges.noCode') : (live.company && accountCodeOf(live.company, of))?.name ?? ''
const total = computed(() => (answer.value?.sums ?? []).reduce((sum, { calls, length }) => ({ calls: sum.calls + calls, length: sum.length + length }), {
  calls: 0, length: 0,
}))

async function load(): Promise<void> {
  const mine = ++asked
  try {
    const now = await $fetch<Charges>('/api/charges', { query: query.value })
    if (mine !== asked) return
    answer.value = now
    failure.value = null
  }
  catch (error) {
    if (mine === asked) failure.value = sentenceOf(error)
  }
}

async function correct(one: Charge, to: string): Promise<void> {
  changing.value = one.call
  try {
    await $fetch(`/api/charges/${encodeURIComponent(one.call)}`, { method: 'PUT', body: { code: to, seen: one.code } })
    desk.say(t('charges.chargedTo', { to: to || t('charges.noCode') }))
    await load()
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
  changing.value = null
}

const print = () => window.print()
watch(query, load)
onMounted(load)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <FiguresHead :title="t('charges.charges')" />
      <PeriodPicker v-model="period" />
      <el-select
        v-model="code"
        class="choice"
        :empty-values="[null, undefined]"
        :aria-label="t('charges.accountCode')"
      >
        <el-option
          value=""
          :label="t('charges.everyCode')"
        />
        <el-option
          value="none"
          :label="t('charges.withoutACode')"
        />
        <el-option
          v-for="one in listed"
          :key="one.id"
          :value="one.code"
          :label="`${one.code} ${one.name}`"
        />
      </el-select>
      <el-button
        tag="a"
        :href="file"
        download
      >
        {{ t('common.giveOutAsCsv') }}
      </el-button>
      <el-button @click="print">
        {{ t('common.print') }}
      </el-button>
    </div>
    <HistoryNotice @more="load" />
    <FailureNote :text="failure" />
    <p class="printed">
      {{ t('charges.callsOutsideThatWereAnswered', { inWords: inWords(period) }) }}
    </p>
    <div class="panes">
      <div
        class="list"
        tabindex="0"
        role="group"
        :aria-label="t('common.calls')"
      >
        <RecordsTable
          v-slot="{ row: one }"
          :columns="[t('common.when'), t('common.by'), t('common.to'), t('charges.length'), t('charges.chargedTo2'), t('charges.corrected')]"
          :rows="answer?.calls ?? []"
          :key-of="({ call }) => call"
          :empty="answer ? t('charges.noCallOutsideWasAnswered') : null"
        >
          <td>{{ shownAt(one.startedAt).format('D MMM H:mm') }}</td>
          <td>{{ one.by }}</td>
          <td>{{ one.name || formatNumber(one.number) }}</td>
          <td class="number">
            {{ spell(one.length) }}
          </td>
          <td>
            <el-select
              :model-value="one.code"
              :disabled="changing !== null"
              :aria-label="t('charges.whatTheCallToOf', { name: one.name || formatNumber(one.number), at: shownAt(one.startedAt).format('D MMM H:mm') })"
              :empty-values="[null, undefined]"
              size="small"
              class="code"
              filterable
              allow-create
              @change="(to: string) => correct(one, to)"
            >
              <el-option
                value=""
                :label="t('charges.noCode')"
              />
              <el-option
                v-for="known in listed"
                :key="known.id"
                :value="known.code"
                :label="known.code"
              />
            </el-select>
          </td>
          <td>
            {{ one.corrected ? t('charges.byAtWasBefore', {
              by: one.corrected.by, at: shownAt(one.corrected.at).format('D MMM H:mm'), before: one.corrected.before || t('charges.noCode'),
            }) : '' }}
          </td>
        </RecordsTable>
        <p
          v-if="answer && answer.more > 0"
          class="soft"
        >
          {{ t('charges.andBeforeThemChooseA', { more: answer.more }) }}
        </p>
      </div>
      <aside
        class="details"
        :aria-label="t('charges.sumsByAccountCode')"
      >
        <h2>{{ t('charges.byAccountCode') }}</h2>
        <table class="sums">
          <thead>
            <tr>
              <th scope="col">
                {{ t('charges.code') }}
              </th>
              <th scope="col">
                {{ t('common.calls') }}
              </th>
              <th scope="col">
                {{ t('charges.length') }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="sum in answer?.sums ?? []"
              :key="sum.code"
            >
              <th scope="row">
                {{ sum.code }} <span class="soft">{{ nameOf(sum.code) }}</span>
              </th>
              <td>{{ sum.calls }}</td>
              <td>{{ spell(sum.length) }}</td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <th scope="row">
                {{ t('common.all') }}
              </th>
              <td>{{ total.calls }}</td>
              <td>{{ spell(total.length) }}</td>
            </tr>
          </tfoot>
        </table>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.choice {
  width: 14rem;
}

.bar :deep(.el-date-editor) {
  flex: none;
  width: 18rem;
}

.bar .el-button {
  margin: 0;
  text-decoration: none;
}

.code {
  width: 8rem;
}

.number,
.sums td {
  font-variant-numeric: tabular-nums;
}

.sums {
  width: 100%;
  border-collapse: collapse;
}

.sums th,
.sums td {
  padding: var(--space-2) 0;
  border-bottom: var(--line);
  font-weight: 400;
  text-align: left;
}

.sums td,
.sums thead th:not(:first-child) {
  text-align: right;
}

.sums tfoot * {
  font-weight: 700;
}

.printed {
  display: none;
}

@media print {
  .bar .el-button,
  .bar .el-select,
  .bar :deep(.el-date-editor) {
    display: none;
  }

  .printed {
    display: block;
    padding-bottom: var(--space-4);
  }

  .panes {
    display: flex;
    flex-direction: column-reverse;
  }
}
</style>
