<script setup lang="ts">
import { type Meaning, meanings } from '~~/core/formats/contact-fields'
import { formatNumber } from '~/composables/numbers'
import { useContactImport } from '~/stores/contact-import'

useHead({ title: 'Bring in contacts · Estafette' })

/** Contacts from a file: what it holds is seen before anything is changed. */
const bringing = useContactImport()
const shownOf = ref<'all' | 'new' | 'changed' | 'unchanged' | 'refused'>('all')
const rows = computed(() => bringing.rows.filter(({ verdict }) => shownOf.value === 'all' || verdict === shownOf.value))
const busy = computed(() => bringing.doing !== 'nothing')
/** The first few of many. */
const fewOf = (all: readonly string[], few: number) => all.slice(0, few).join(', ') + (all.length > few ? ` and ${all.length - few} more` : '')
const share = computed(() => Math.round(bringing.done / Math.max(1, bringing.wanted.length) * 100))
const over = ref(false)

const meaningWords: Record<Meaning, string> = {
  nothing: 'nothing', name: 'name', first: 'first name', last: 'last name', company: 'company', work: 'number, work', mobile: 'number, mobile',
  home: 'number, home', other: 'number, other', address: 'address', category: 'category', language: 'language', note: 'note',
  kind: 'kind', uid: 'identity (UID)',
}
const verdictWords = { new: 'new', changed: 'changed', unchanged: 'unchanged', refused: 'refused' }

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
function counted(count: number, one: string, several = `${one}s`): string {
  return `${count} ${count === 1 ? one : several}`
}
onMounted(bringing.remember)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Bring in contacts</h1>
      <el-button @click="navigateTo('/contacts')">
        Back to the contacts
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
          <label for="contact-file">A file of vCards (.vcf) or CSV, from any address book. Drop it here, or choose it:</label>
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
            Reading …
          </p>
          <p class="soft">
            You see what is new, changed or refused before anything is changed, and all of it can be undone.
          </p>
        </div>
        <template v-else>
          <p class="file">
            <strong>{{ bringing.file.name }}</strong>
            <el-checkbox
              v-model="bringing.isPrivate"
              :disabled="busy || bringing.current !== null"
              label="For me alone"
              @change="bringing.look()"
            />
            <el-button
              :disabled="busy"
              @click="bringing.forget()"
            >
              Another file
            </el-button>
          </p>
          <fieldset
            v-if="bringing.columns"
            class="columns"
            :disabled="busy || bringing.current !== null"
          >
            <legend>What the columns hold: guessed from their names</legend>
            <div
              v-for="(column, at) in bringing.columns.names"
              :key="at"
              class="column"
            >
              <span class="named">{{ column || `Column ${at + 1}` }}</span>
              <span class="soft">{{ bringing.columns.sample.map(row => row[at]).filter(Boolean).slice(0, 2).join(', ') || 'empty' }}</span>
              <el-select
                :model-value="bringing.columns.as[at]"
                :aria-label="`What ${column || `column ${at + 1}`} holds`"
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
            aria-label="Which rows"
          >
            <el-radio-button value="all">
              All {{ bringing.rows.length }}
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
            :columns="['At', 'Name', 'Company', 'Numbers', 'What becomes of it']"
            :rows="rows"
            :key-of="row => String(row.at)"
            empty="None."
          >
            <template #default="{ row }">
              <td>{{ row.at }}</td>
              <td>{{ row.said?.name ?? '' }}</td>
              <td>{{ row.said?.company ?? '' }}</td>
              <td>{{ row.said?.numbers.slice(0, 2).map(one => formatNumber(one.number)).join(', ') ?? '' }}</td>
              <td>
                <strong>{{ row.verdict ?? '…' }}</strong>{{ row.why && `: ${row.why}` }}
                <span
                  v-if="row.unread.length"
                  class="soft"
                >can't be called: {{ fewOf(row.unread, 3) }}</span>
                <span
                  v-if="row.left.length"
                  class="soft"
                >left out: {{ row.left.join(', ') }}</span>
              </td>
            </template>
          </RecordsTable>
        </template>
      </div>
      <aside
        class="details"
        aria-label="What will be done"
      >
        <template v-if="bringing.file">
          <h2 aria-live="polite">
            <template v-if="bringing.doing === 'looking'">
              Looking at what is there …
            </template>
            <template v-else-if="bringing.isBroughtIn">
              Brought in
            </template>
            <template v-else-if="bringing.current">
              {{ bringing.done }} of {{ bringing.wanted.length }}
            </template>
            <template v-else>
              {{ counted(bringing.counts.new, 'new contact') }}, {{ bringing.counts.changed }} changed
            </template>
          </h2>
          <p>
            {{ bringing.counts.unchanged }} unchanged, {{ bringing.counts.refused }} refused.
            <template v-if="bringing.companies.length">
              With them {{ counted(bringing.companies.length, 'company', 'companies') }}: {{ fewOf(bringing.companies, 5) }}.
            </template>
          </p>
          <el-progress
            v-if="bringing.current"
            :percentage="share"
            :show-text="false"
            aria-label="How much has been brought in"
          />
          <p class="button-row">
            <el-button
              v-if="!bringing.isBroughtIn && bringing.doing !== 'bringing'"
              type="primary"
              :disabled="busy || bringing.wanted.length === 0"
              @click="bringing.bringIn()"
            >
              {{ bringing.current ? 'Go on' : 'Bring them in' }}
            </el-button>
            <el-button
              v-if="bringing.doing === 'bringing' || bringing.doing === 'looking'"
              @click="bringing.stop()"
            >
              Stop
            </el-button>
            <el-button
              v-if="bringing.current && !busy"
              @click="bringing.undo(bringing.current.id)"
            >
              Undo all of it
            </el-button>
          </p>
        </template>
        <p
          v-if="bringing.undone"
          role="status"
          class="undone"
        >
          Undone: {{ counted(bringing.undone.undone, 'contact') }} as before.
          <template v-if="bringing.undone.left.length">
            Changed since, and left as they are: {{ fewOf(bringing.undone.left, 8) }}.
          </template>
        </p>
        <h3>Brought in before</h3>
        <ul
          v-if="bringing.past.length"
          aria-label="Brought in before"
        >
          <li
            v-for="one in bringing.past"
            :key="one.id"
            class="before"
          >
            <span>
              <strong>{{ one.file }}</strong><br>
              {{ shownAt(one.at).format('D MMM H:mm') }}, {{ one.by }}: {{ one.added }} new, {{ one.changed }} changed
            </span>
            <span v-if="one.undone">undone</span>
            <el-button
              v-else
              size="small"
              :disabled="busy"
              :aria-label="`Undo ${one.file}`"
              @click="bringing.undo(one.id)"
            >
              Undo
            </el-button>
          </li>
        </ul>
        <p
          v-else
          class="soft"
        >
          Nothing yet.
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
