<script setup lang="ts">
import { type OpenThing, openThings } from '~~/core/console/open-things'
import { spell } from '~~/core/durations/durations'
import { longest } from '~~/shared/longest'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useShift } from '~/stores/shift'

useHead({ title: 'Shift · Estafette' })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const shift = useShift()

const kinds: Record<OpenThing['kind'], string> = {
  onHold: 'On hold', parked: 'Parked', waiting: 'Waits too long', callBack: 'Call-back', opening: 'Opening', trunk: 'Trunk', line: 'Lines',
  telephone: 'Telephone',
  queue: 'Queue',
}
const nameOf: Parameters<typeof openThings>[2] = (device, party) => party ? directory.nameOf(device, party) : directory.destinationName(device)
const things = computed(() => live.state ? openThings(live.state, desk.now, nameOf, at => shownAt(at).format('H:mm')) : [])
const keyOf = ({ kind, who, words }: OpenThing) => `${kind} ${who} ${words}`

const words = ref('')
async function handOver(): Promise<void> {
  if (await shift.send('hand-overs', { words: words.value }, 'The shift is handed over')) words.value = ''
}
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Shift</h1>
      <p
        v-if="shift.said"
        class="counts"
      >
        <NuxtLink to="/log">
          {{ shift.said.missed }} missed {{ shift.said.missed === 1 ? 'call' : 'calls' }} not dealt with
        </NuxtLink>
        <NuxtLink to="/messages">
          {{ shift.said.unread }} {{ shift.said.unread === 1 ? 'message' : 'messages' }} of the lines unread
        </NuxtLink>
        <NuxtLink to="/call-backs">
          {{ live.state?.callBacks.size ?? 0 }} to be called back
        </NuxtLink>
      </p>
    </div>
    <FailureNote :text="shift.failure" />
    <div class="panes">
      <div
        class="list sections"
        tabindex="0"
        role="group"
        aria-label="Who takes which line, and what is open"
      >
        <ShiftLines />
        <section aria-labelledby="shift-open">
          <h2 id="shift-open">
            Open now
          </h2>
          <RecordsTable
            v-slot="{ row: row }"
            :columns="['What', 'Who', 'How it stands', 'For']"
            :rows="things"
            :key-of="keyOf"
            :empty="null"
          >
            <td>{{ kinds[row.kind] }}</td>
            <td><strong>{{ row.who }}</strong></td>
            <td>{{ row.words }}</td>
            <td>{{ spell(live.wall(desk.now) - row.since) }}</td>
          </RecordsTable>
          <p
            v-if="things.length === 0"
            class="soft"
          >
            Nothing: nobody is on hold, parked or to be called back, and nothing was set by hand.
          </p>
        </section>
      </div>
      <aside
        class="details"
        aria-label="Hand-over"
      >
        <HandOverCard
          v-if="shift.toSign"
          :given="shift.toSign"
          class="to-sign"
        />
        <h2>Hand over</h2>
        <p class="soft">
          What is open at that moment, and the notes below, are kept with what you say. Whoever comes signs it.
        </p>
        <form @submit.prevent="handOver">
          <label for="hand-over-words">What the next should know first</label>
          <el-input
            id="hand-over-words"
            v-model="words"
            type="textarea"
            :rows="3"
            :maxlength="longest.shiftNote"
          />
          <el-button
            type="primary"
            native-type="submit"
            :disabled="!live.working"
          >
            Hand over the shift
          </el-button>
        </form>
        <ShiftNotes />
        <template v-if="shift.said?.handOvers.length">
          <h3>Hand-overs before</h3>
          <HandOverCard
            v-for="given in shift.said.handOvers.filter(({ id }) => id !== shift.toSign?.id)"
            :key="given.id"
            :given="given"
          />
        </template>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
}

.counts a {
  color: var(--ink-soft);
}

.sections {
  display: grid;
  gap: var(--space-5);
  align-content: start;
}

.sections h2 {
  padding-bottom: var(--space-3);
  font: 600 var(--type-4) var(--font-sign);
}

.to-sign {
  margin-bottom: var(--space-4);
  padding: var(--space-3) var(--space-4);
  background: var(--lit);
  border-left: 4px solid var(--call);
}

form {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  padding: var(--space-3) 0;
}
</style>
