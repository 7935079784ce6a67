<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

const desk = useDesk()
const live = useLive()

/** Why nobody arrives here: nobody calls, or calls go to others for as long as one is not to be had. */
const nobody = computed(() => {
  const own = desk.device ? live.state?.devices.get(desk.device) : undefined
  if (own?.doNotDisturb) return t('track.doNotDisturbIsOn')
  return own?.status.reason ? t('track.youAreAwayCallersGo') : t('track.nobodyIsWaiting')
})
const idle = computed(() => desk.held.length > 0 ? t('track.noCallInHandSpace') : t('track.noCallInHand'))
/** Nobody calls, nobody is in hand and nobody under way: there is room, and time, for what else is to be known. */
const isQuiet = computed(() => desk.arriving.length + desk.inHand.length + desk.passedOn.length + desk.farewells.length === 0)
const farewells = (stretch: string) => desk.farewells.filter(farewell => farewell.stretch === stretch)
</script>

<template>
  <div class="track">
    <TrackStretch
      stretch="arriving"
      :title="t('track.arriving')"
      :ribbons="desk.arriving"
      :open="desk.next"
      :nobody="nobody"
      :farewells="farewells('arriving')"
      empty=""
    >
      <template
        v-if="isQuiet"
        #quiet
      >
        <QuietDay />
      </template>
    </TrackStretch>
    <TrackStretch
      stretch="inHand"
      :title="t('track.inHand')"
      :ribbons="desk.inHand"
      :open="desk.track.open"
      :nobody="idle"
      :farewells="farewells('inHand')"
      empty=""
    >
      <template
        v-if="isQuiet"
        #quiet
      >
        <NextThings />
      </template>
    </TrackStretch>
    <TrackStretch
      stretch="passedOn"
      :title="t('track.passedOn')"
      :ribbons="desk.passedOn"
      :open="null"
      :nobody="null"
      :farewells="farewells('passedOn')"
      :empty="isQuiet ? '' : t('track.nothingUnderWay')"
    >
      <template
        v-if="isQuiet"
        #quiet
      >
        <PassedLately />
      </template>
    </TrackStretch>
  </div>
</template>

<style scoped>
.track {
  display: grid;
  grid-template-columns: 1.3fr 1.25fr 0.75fr;
  flex: none;
  min-height: 0;
  background: var(--sheet);
}

.track > * + * {
  border-left: 1px dashed var(--edge);
}

@media (max-width: 60rem) {
  .track {
    grid-template-rows: repeat(3, minmax(0, max-content));
    grid-template-columns: minmax(0, 1fr);
    overflow: hidden;
  }

  .track > * + * {
    border-top: 1px dashed var(--edge);
    border-left: 0;
  }

  .track > * {
    max-height: 12rem;
  }

  /* No line is cut in half: the open ribbon and three more. */
  .track > :first-child {
    max-height: calc(var(--stretch-title) + var(--open-arriving) + 3 * (var(--ribbon-line) + 1px) + 3 * var(--space-2));
  }
}

@media (min-width: 36rem) and (max-width: 60rem) {
  .track {
    grid-template: repeat(2, minmax(0, max-content)) / repeat(2, minmax(0, 1fr));
  }

  .track > :last-child {
    grid-column: 1 / 3;
    max-height: 6rem;
  }
}
</style>
