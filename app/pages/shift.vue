<script setup lang="ts">
import { type OpenThing, openThings } from '~~/core/console/open-things'
import { spell } from '~~/core/durations/durations'
import { longest } from '~~/shared/longest'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useShift } from '~/stores/shift'

useHead({ title: t('shift.shiftEstafette') })

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const shift = useShift()

const kinds: Record<OpenThing['kind'], string> = {
  onHold: t('shift.onHold'), parked: t('shift.parked'), waiting: t('shift.waitsTooLong'), callBack: t('shift.callBack'), opening: t('shift.opening'),
  trunk: t('shift.trunk'), line: t('shift.lines'),
  telephone: t('common.telephone'),
  queue: t('common.queue'),
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
      <h1>{{ t('shift.shift') }}</h1>
      <p
        v-if="shift.said"
        class="counts"
      >
        <NuxtLink to="/log">
          {{ t('shift.missedCallNotDealtWith', { count: shift.said.missed }) }}
        </NuxtLink>
        <NuxtLink to="/messages">
          {{ t('shift.messageOfTheLinesUnread', { count: shift.said.unread }) }}
        </NuxtLink>
        <NuxtLink to="/call-backs">
          {{ t('shift.toBeCalledBack', { size: live.state?.callBacks.size ?? 0 }) }}
        </NuxtLink>
      </p>
    </div>
    <FailureNote :text="shift.failure" />
    <div class="panes">
      <div
        class="list sections"
        tabindex="0"
        role="group"
        :aria-label="t('shift.whoTakesWhichLineAnd')"
      >
        <ShiftLines />
        <section aria-labelledby="shift-open">
          <h2 id="shift-open">
            {{ t('shift.openNow') }}
          </h2>
          <RecordsTable
            v-slot="{ row: row }"
            :columns="[t('common.what'), t('common.who'), t('shift.howItStands'), t('common.for')]"
            :rows="things"
            :key-of="keyOf"
            :empty="null"
          >
            <td>{{ kinds[row.kind] }}</td>
            <td><strong>{{ say(row.who) }}</strong></td>
            <td>{{ say(row.words) }}</td>
            <td>{{ spell(live.wall(desk.now) - row.since) }}</td>
          </RecordsTable>
          <p
            v-if="things.length === 0"
            class="soft"
          >
            {{ t('shift.nothingNobodyIsOnHold') }}
          </p>
        </section>
      </div>
      <aside
        class="details"
        :aria-label="t('shift.handOver')"
      >
        <HandOverCard
          v-if="shift.toSign"
          :given="shift.toSign"
          class="to-sign"
        />
        <h2>{{ t('common.handOver') }}</h2>
        <p class="soft">
          {{ t('shift.whatIsOpenAtThat') }}
        </p>
        <form @submit.prevent="handOver">
          <label for="hand-over-words">{{ t('shift.whatTheNextShouldKnow') }}</label>
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
            {{ t('shift.handOverTheShift') }}
          </el-button>
        </form>
        <ShiftNotes />
        <template v-if="shift.said?.handOvers.length">
          <h3>{{ t('shift.handOversBefore') }}</h3>
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
