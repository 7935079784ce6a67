<script setup lang="ts">
import type { Turn } from '~~/core/calendar/duty'
import { useDropZone } from '@vueuse/core'
import { ValidationError } from 'yup'
import { longestFile } from '~~/shared/whereabouts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'
import { useWhereabouts } from '~/stores/whereabouts'

useHead({ title: t('whereabouts.whoIsWhereEstafette') })

const live = useLive()
const desk = useDesk()
const session = useSession()
const dialogs = useDialogs()
const directory = useDirectory()
const whereabouts = useWhereabouts()
const words = usePresenceWords()

const keepsRosters = computed(() => session.may('keepCalendars'))
const duties = computed(() => Object.values(live.company?.duties ?? {})
  .sort((a, b) => a.position - b.position).flatMap(({ id }) => whereabouts.duty(id) ?? []))
const now = computed(() => live.wall(desk.now))

const namesOf = ({ people, unknown }: Pick<Turn, 'people' | 'unknown'>) =>
  [...people.map(directory.personName), ...unknown.map(name => t('whereabouts.nameUnknown', { name }))].join(', ')
const nextOf = (next: Turn | null) => next ? `${namesOf(next)}, ${momentWords(next.from, now.value)}` : t('whereabouts.nobodyThisWeek')

const places = computed(() => Object.values(live.company?.telephones ?? {}).filter(({ person }) => person === null).map((place) => {
  const stays = whereabouts.known.occupants.filter(({ telephone }) => telephone === place.id)
  const presence = live.presences.get(place.id)
  const before = stays.filter(({ to }) => to !== null && to <= now.value).map(({ name, to }) => t('whereabouts.nameUntilMomentWords', {
    name, momentWords: momentWords(to!, now.value),
  }))
  const later = stays.filter(({ from }) => from > now.value).map(({ name, from }) => t('whereabouts.nameFromMomentWords', {
    name, momentWords: momentWords(from, now.value),
  }))
  return {
    ...place, state: presence ? words.whole(presence, desk.now) : '',
    present: (whereabouts.occupants.get(place.id) ?? []).join(', ') || t('common.nobody'), other: [...later, ...before].join(', '),
  }
}))

const { failure, sending, send } = useForm()
const mostShown = 8
const taken = ref<string | null>(null)
const { isOverDropZone: over } = useDropZone(useTemplateRef<HTMLElement>('drop'), { onDrop: files => void take(files?.[0]) })
async function take(file: File | undefined): Promise<void> {
  taken.value = null
  if (!file) return
  await send({}, async () => {
    if (file.size > longestFile) throw new ValidationError(t('whereabouts.theListIsLargerThan'))
    const { stays, unknown } = await $fetch<{ stays: number, unknown: string[] }>('/api/occupants', { method: 'PUT', body: { csv: await file.text() } })
    const shown = `${unknown.slice(0, mostShown).join(', ')}${unknown.length > mostShown ? t('whereabouts.andMore', { n: unknown.length - mostShown }) : ''}`
    const left = unknown.length > 0 ? t('whereabouts.noSuchPlaceLeftOut', { shown }) : ''
    taken.value = t('whereabouts.rowWasTakenWhoeverIs', { count: stays, left })
    desk.say(taken.value)
  })
}
function choose(event: Event): void {
  const input = event.target as HTMLInputElement
  void take(input.files?.[0])
  input.value = ''
}

const columns = computed(() => [
  t('whereabouts.duty'), t('common.now'), t('whereabouts.until'), t('whereabouts.next'), t('whereabouts.otherwise'),
  ...keepsRosters.value ? [`-${t('whereabouts.roster')}`] : [],
])
</script>

<template>
  <div class="records-page">
    <h1>{{ t('whereabouts.whoIsWhere') }}</h1>
    <FailureNote :text="failure" />
    <section aria-labelledby="duties">
      <h2 id="duties">
        {{ t('whereabouts.onDuty') }}
      </h2>
      <RecordsTable
        v-slot="{ row: duty }"
        :columns="columns"
        :rows="duties"
        :key-of="duty => duty.id"
        :empty="t('whereabouts.noDutiesAreSetUp')"
      >
        <td><strong>{{ duty.name }}</strong></td>
        <td :class="{ gap: !duty.people.length }">
          {{ namesOf(duty) || t('whereabouts.nobodyAGap') }}
        </td>
        <td>{{ duty.until === null ? '' : momentWords(duty.until, now) }}</td>
        <td>{{ nextOf(duty.next) }}</td>
        <td>{{ directory.destinationName(duty.instead) }}</td>
        <td v-if="keepsRosters">
          <el-button
            size="small"
            :aria-label="t('whereabouts.rosterOf', { name: duty.name })"
            @click="dialogs.calendar = { of: duty.id, name: duty.name }"
          >
            {{ t('whereabouts.rosterDialog') }}
          </el-button>
        </td>
      </RecordsTable>
    </section>
    <section
      v-if="session.may('keepPlaces')"
      aria-labelledby="places"
    >
      <h2 id="places">
        {{ t('whereabouts.places') }}
      </h2>
      <div
        ref="drop"
        :class="['drop', { over }]"
      >
        <label for="occupants">{{ t('whereabouts.aNewListOfWho') }}</label>
        <input
          id="occupants"
          type="file"
          accept=".csv,text/csv"
          :disabled="sending"
          @change="choose"
        >
        <p
          v-if="taken"
          role="status"
        >
          {{ taken }}
        </p>
      </div>
      <RecordsTable
        v-slot="{ row: place }"
        :columns="[t('whereabouts.place'), t('common.number'), t('common.whoIsThere'), t('whereabouts.othersWithinADay'), t('common.telephone')]"
        :rows="places"
        :key-of="place => place.id"
        :empty="t('whereabouts.noTelephoneHereBelongsTo')"
      >
        <td><strong>{{ place.name }}</strong></td>
        <td>{{ place.number }}</td>
        <td>{{ place.present }}</td>
        <td class="soft">
          {{ place.other }}
        </td>
        <td>{{ place.state }}</td>
      </RecordsTable>
    </section>
  </div>
</template>

<style scoped>
h2 {
  padding: var(--space-4) 0 var(--space-2);
  font: 700 var(--type-4) var(--font-sign);
}

.gap {
  color: var(--alarm);
  font-weight: 700;
}

.drop {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-4);
  margin-bottom: var(--space-3);
  padding: var(--space-3) var(--space-4);
  border: 1px dashed var(--edge-strong);
}

.drop.over {
  background: var(--lit);
}

.drop p {
  flex: 1 1 100%;
}
</style>
