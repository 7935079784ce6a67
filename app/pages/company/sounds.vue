<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { toneKinds } from '~~/core/sound/country-tones'
import { greetingPlace, linePlace, musicPlace, tonePlace } from '~~/core/sound/own-sounds'
import { useLive } from '~/stores/live'

useHead({ title: t('ownSounds.whatCallersHearEstafette') })

/** What callers hear beside voices: each sound of the house, and what somebody has brought in its place. */
const live = useLive()
const { sounds, failure, load } = useOwnSounds()
const toneWords = {
  ringing: 'ownSounds.toneRinging', busy: 'ownSounds.toneBusy', congestion: 'ownSounds.toneCongestion', unobtainable: 'ownSounds.toneUnobtainable',
} as const

const lines = computed(() => Object.values(live.company?.lines ?? {}))
const groups = computed(() => Object.values(live.company?.groups ?? {}))
const kinds = computed(() => [
  { title: t('ownSounds.music'), note: t('ownSounds.whileOneWaits'), places: [{ place: musicPlace, what: t('ownSounds.music') }] },
  { title: t('ownSounds.tones'), note: '', places: toneKinds.map(kind => ({ place: tonePlace(kind), what: t(toneWords[kind]) })) },
  {
    title: t('ownSounds.linesSay'), note: t('ownSounds.onceWhileItRings'),
    places: lines.value.flatMap(({ id, name }) => [
      { place: linePlace(id), what: t('ownSounds.lineRinging', { line: name }) },
      { place: greetingPlace(id, 'usual'), what: t('ownSounds.voicemailOf', { owner: name }) },
    ]),
  },
  {
    title: t('ownSounds.groupsSay'), note: '',
    places: groups.value.map(({ id, name }) => ({ place: greetingPlace(id, 'usual'), what: t('ownSounds.voicemailOf', { owner: name }) })),
  },
])
const chosenPlace = ref(musicPlace)
const chosen = computed(() => kinds.value.flatMap(({ places }) => places).find(({ place }) => place === chosenPlace.value))
const state = (place: string) => {
  const own = sounds.value.get(place)
  return own ? t('ownSounds.ownSound', { time: spell(own.seconds * 1_000) }) : t('ownSounds.byItself')
}
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('ownSounds.whatCallersHear') }}</h1>
      <el-button @click="navigateTo('/company')">
        {{ t('company.backToTheCompany') }}
      </el-button>
    </div>
    <FailureNote :text="failure" />
    <div class="panes">
      <div class="list">
        <section
          v-for="{ title, note, places } in kinds"
          :key="title"
          :aria-label="title"
        >
          <h2>{{ title }}</h2>
          <p
            v-if="note"
            class="soft"
          >
            {{ note }}
          </p>
          <ul>
            <li
              v-for="{ place, what } in places"
              :key="place"
              :class="{ chosen: place === chosenPlace }"
            >
              <button
                type="button"
                class="choose"
                :aria-pressed="place === chosenPlace"
                @click="chosenPlace = place"
              >
                {{ what }}
              </button>
              <span :class="{ soft: !sounds.has(place) }">{{ state(place) }}</span>
            </li>
          </ul>
        </section>
      </div>
      <aside
        v-if="chosen"
        class="details"
        :aria-label="chosen.what"
      >
        <h2>{{ chosen.what }}</h2>
        <p class="soft">
          {{ t('ownSounds.theHousePlaysItself') }}
        </p>
        <OwnSound
          :key="chosen.place"
          :place="chosen.place"
          :what="chosen.what"
          :kept="sounds.get(chosen.place)"
          @changed="load"
        />
      </aside>
    </div>
  </div>
</template>

<style scoped>
section {
  padding-bottom: var(--space-5);
}

h2 {
  padding-bottom: var(--space-2);
  color: var(--ink-soft);
  font: 600 var(--type-4) var(--font-sign);
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2) var(--space-4);
  justify-content: space-between;
  padding: var(--space-2) var(--space-3);
  background: var(--sheet);
  border-bottom: var(--line);
}

.chosen {
  background: var(--lit);
}

.details {
  display: grid;
  align-content: start;
  gap: var(--space-4);
}
</style>
