<script setup lang="ts">
import { type Meaning, meanings } from '~~/core/formats/contact-fields'
import { formatNumber } from '~/composables/numbers'
import { useContactImport } from '~/stores/contact-import'

useHead({ title: t('contacts.bringInContactsEstafette') })

/** Contacts from a file: what it holds is seen before anything is changed. */
const bringing = useContactImport()
const shownOf = ref<'all' | 'new' | 'changed' | 'unchanged' | 'refused'>('all')
const rows = computed(() => bringing.rows.filter(({ verdict }) => shownOf.value === 'all' || verdict === shownOf.value))
const busy = computed(() => bringing.doing !== 'nothing')
/** The first few of many. */
const fewOf = (all: readonly string[], few: number) => all.slice(0, few).join(', ') + (all.length > few ? t('contacts.andMore', { n: all.length - few }) : '')
const share = computed(() => Math.round(bringing.done / Math.max(1, bringing.wanted.length) * 100))
const over = ref(false)

const meaningWords: Record<Meaning, string> = {
  nothing: t('contacts.nothing'), name: t('contacts.name'), first: t('contacts.firstName'), last: t('contacts.lastName'), company: t('contacts.company'),
  work: t('contacts.numberWork'), mobile: t('contacts.numberMobile'),
  home: t('contacts.numberHome'), other: t('contacts.numberOther'), address: t('contacts.address'), category: t('contacts.categoryInline'),
  language: t('contacts.language'), note: t('contacts.note'),
  kind: t('contacts.kindInline'), uid: t('contacts.identityUid'),
}
const verdictWords = { new: t('contacts.new'), changed: t('contacts.changed'), unchanged: t('contacts.unchanged'), refused: t('contacts.refused') }

function choose(event: Event): void {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  if (file) void bringing.read(file)
  input.value = ''
}
function drop(event: DragEvent): void {
  over.value = false
  const [file] = event.dataTransfer?.files ?? []
  if (file && !busy.value) void bringing.read(file)
}
function mean(at: number, meaning: Meaning): void {
  const { file, columns } = bringing
  void bringing.read(file!, columns!.as.map((one, index) => index === at ? meaning : one))
}
onMounted(bringing.remember)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('contacts.bringInContacts') }}</h1>
      <el-button @click="navigateTo('/contacts')">
        {{ t('contacts.backToTheContacts') }}
      </el-button>
    </div>
    <FailureNote :text="bringing.failure" />
    <div class="panes">
      <div class="list">
        <!-- Dropping is the pointer's way; the input is everybody's. -->
        <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -->
        <div
          v-if="!bringing.file"
          :class="['place', { over }]"
          @dragover.prevent="over = true"
          @dragleave="over = false"
          @drop.prevent="drop"
        >
          <label for="contact-file">{{ t('contacts.aFileOfVCardsVcf') }}</label>
          <input
            id="contact-file"
            type="file"
            accept=".vcf,.vcard,.csv,.txt,text/vcard,text/csv"
            :disabled="busy"
            @change="choose"
          >
          <p
            v-if="bringing.doing === 'reading'"
            role="status"
          >
            {{ t('contacts.reading') }}
          </p>
          <p class="soft">
            {{ t('contacts.youSeeWhatIsNew') }}
          </p>
        </div>
        <template v-else>
          <p class="file">
            <strong>{{ bringing.file.name }}</strong>
            <el-checkbox
              v-model="bringing.isPrivate"
              :disabled="busy || bringing.current !== null"
              :label="t('contacts.forMeAlone')"
              @change="bringing.look()"
            />
            <el-button
              :disabled="busy"
              @click="bringing.forget()"
            >
              {{ t('contacts.anotherFile') }}
            </el-button>
          </p>
          <fieldset
            v-if="bringing.columns"
            class="columns"
            :disabled="busy || bringing.current !== null"
          >
            <legend>{{ t('contacts.whatTheColumnsHoldGuessed') }}</legend>
            <div
              v-for="(column, at) in bringing.columns.names"
              :key="at"
              class="column"
            >
              <span class="named">{{ column || t('contacts.columnN', { n: at + 1 }) }}</span>
              <span class="soft">{{ bringing.columns.sample.map(row => row[at]).filter(Boolean).slice(0, 2).join(', ') || t('contacts.empty') }}</span>
              <el-select
                :model-value="bringing.columns.as[at]"
                :aria-label="t('contacts.whatHolds', { column: column || t('contacts.columnN', { n: at + 1 }) })"
                size="small"
                :disabled="busy || bringing.current !== null"
                @update:model-value="mean(at, $event as Meaning)"
              >
                <el-option
                  v-for="meaning in meanings"
                  :key="meaning"
                  :value="meaning"
                  :label="meaningWords[meaning]"
                />
              </el-select>
            </div>
          </fieldset>
          <el-radio-group
            v-model="shownOf"
            :aria-label="t('contacts.whichRows')"
          >
            <el-radio-button value="all">
              {{ t('contacts.allCount', { count: bringing.rows.length }) }}
            </el-radio-button>
            <el-radio-button
              v-for="(word, verdict) in verdictWords"
              :key="verdict"
              :value="verdict"
            >
              {{ bringing.counts[verdict] }} {{ word }}
            </el-radio-button>
          </el-radio-group>
          <RecordsTable
            :columns="[t('contacts.at'), t('common.name'), t('common.company'), t('contacts.numbers'), t('contacts.whatBecomesOfIt')]"
            :rows="rows"
            :key-of="row => String(row.at)"
            :empty="t('contacts.none')"
          >
            <template #default="{ row }">
              <td>{{ row.at }}</td>
              <td>{{ row.said?.name ?? '' }}</td>
              <td>{{ row.said?.company ?? '' }}</td>
              <td>{{ row.said?.numbers.slice(0, 2).map(one => formatNumber(one.number)).join(', ') ?? '' }}</td>
              <td>
                <strong>{{ row.verdict ? verdictWords[row.verdict] : '…' }}</strong>{{ row.why && `: ${row.why}` }}
                <span
                  v-if="row.unread.length"
                  class="soft"
                >{{ t('contacts.cantBeCalled', { fewOf: fewOf(row.unread, 3) }) }}</span>
                <span
                  v-if="row.left.length"
                  class="soft"
                >{{ t('contacts.leftOut', { left: row.left.map(say).join(', ') }) }}</span>
              </td>
            </template>
          </RecordsTable>
        </template>
      </div>
      <aside
        class="details"
        :aria-label="t('contacts.whatWillBeDone')"
      >
        <template v-if="bringing.file">
          <h2 aria-live="polite">
            <template v-if="bringing.doing === 'looking'">
              {{ t('contacts.lookingAtWhatIsThere') }}
            </template>
            <template v-else-if="bringing.isBroughtIn">
              {{ t('contacts.broughtIn') }}
            </template>
            <template v-else-if="bringing.current">
              {{ t('contacts.doneOfCount', { done: bringing.done, count: bringing.wanted.length }) }}
            </template>
            <template v-else>
              {{ t('contacts.countedChangedChanged',
                   { counted: t('contacts.newContacts', { count: bringing.counts.new }), changed: bringing.counts.changed }) }}
            </template>
          </h2>
          <p>
            {{ t('contacts.unchangedRefused', { unchanged: bringing.counts.unchanged, refused: bringing.counts.refused }) }}
            <template v-if="bringing.companies.length">
              {{ t('contacts.withThem', { counted: t('contacts.companies', { count: bringing.companies.length }), fewOf: fewOf(bringing.companies, 5) }) }}
            </template>
          </p>
          <el-progress
            v-if="bringing.current"
            :percentage="share"
            :show-text="false"
            :aria-label="t('contacts.howMuchHasBeenBrought')"
          />
          <p class="button-row">
            <el-button
              v-if="!bringing.isBroughtIn && bringing.doing !== 'bringing'"
              type="primary"
              :disabled="busy || bringing.wanted.length === 0"
              @click="bringing.bringIn()"
            >
              {{ bringing.current ? t('contacts.goOn') : t('contacts.bringThemIn') }}
            </el-button>
            <el-button
              v-if="bringing.doing === 'bringing' || bringing.doing === 'looking'"
              @click="bringing.stop()"
            >
              {{ t('contacts.stop') }}
            </el-button>
            <el-button
              v-if="bringing.current && !busy"
              @click="bringing.undo(bringing.current.id)"
            >
              {{ t('contacts.undoAllOfIt') }}
            </el-button>
          </p>
        </template>
        <p
          v-if="bringing.undone"
          role="status"
          class="undone"
        >
          {{ t('contacts.undoneAsBefore', { counted: t('contacts.countContacts', { count: bringing.undone.undone }) }) }}
          <template v-if="bringing.undone.left.length">
            {{ t('contacts.changedSinceAndLeftAs', { fewOf: fewOf(bringing.undone.left, 8) }) }}
          </template>
        </p>
        <h3>{{ t('contacts.broughtInBefore') }}</h3>
        <ul
          v-if="bringing.past.length"
          :aria-label="t('contacts.broughtInBefore')"
        >
          <li
            v-for="one in bringing.past"
            :key="one.id"
            class="before"
          >
            <span>
              <strong>{{ one.file }}</strong><br>
              {{ t('contacts.newChanged', { at: shownAt(one.at).format('D MMM H:mm'), by: one.by, added: one.added, changed: one.changed }) }}
            </span>
            <span v-if="one.undone">{{ t('contacts.undone') }}</span>
            <el-button
              v-else
              size="small"
              :disabled="busy"
              :aria-label="t('contacts.undoFile', { file: one.file })"
              @click="bringing.undo(one.id)"
            >
              {{ t('contacts.undo') }}
            </el-button>
          </li>
        </ul>
        <p
          v-else
          class="soft"
        >
          {{ t('contacts.nothingYet') }}
        </p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.place {
  display: grid;
  gap: var(--space-4);
  place-content: center;
  justify-items: center;
  height: 100%;
  padding: var(--space-6);
  border: 2px dashed var(--edge-strong);
  border-radius: var(--round-large);
  font-size: var(--type-4);
  text-align: center;
}

.place.over {
  background: var(--lit);
}

.file {
  display: flex;
  gap: var(--space-4);
  align-items: center;
  padding-bottom: var(--space-3);
}

.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr));
  gap: var(--space-3);
  padding: 0 0 var(--space-4);
  margin: 0;
  border: 0;
}

.columns legend {
  padding-bottom: var(--space-2);
  color: var(--ink-soft);
}

.column {
  display: grid;
  gap: var(--space-1);
  min-width: 0;
}

.column span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.named {
  font-weight: 650;
}

.undone {
  padding-block: var(--space-3);
}

.before {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  justify-content: space-between;
  padding: var(--space-2) 0;
  border-bottom: var(--line);
}
</style>
