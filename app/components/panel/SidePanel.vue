<script setup lang="ts">
import type { Call } from '~~/core/calls/model'
import { outsideParty } from '~~/core/console/console'
import { useDesk } from '~/stores/desk'

const desk = useDesk()

/** The call in question: one chosen by hand, the one in hand, or whoever is next; it stays to be read a while when it is over. */
const current = computed(() => {
  const { track } = desk
  return (track.chosen ? track.next!.call : null) ?? track.baton ?? track.open?.call ?? track.next?.call ?? null
})
const call = computed<Call | null>(before => current.value ?? before ?? null)
const party = computed(() => call.value && outsideParty(call.value, desk.device))
const name = computed(() => call.value ? desk.otherName(call.value) : '')
const number = computed(() => party.value?.number ?? null)
</script>

<template>
  <aside
    class="panel"
    aria-label="The call in question"
  >
    <PanelHead :title="call ? name : 'The call in question'" />
    <div
      v-if="call"
      class="content"
      tabindex="0"
    >
      <p
        v-if="!current"
        class="soft"
      >
        This call is over.
      </p>
      <CallerFacts :call="call" />
      <h3>What happened</h3>
      <CallStory :call="call" />
      <h3>Earlier calls</h3>
      <EarlierCalls
        :number="number"
        :except="call.id"
      />
    </div>
    <p
      v-else
      class="content soft"
    >
      Here stands what belongs to the call in hand or the next one: what has happened to it, and the caller's earlier calls with us.
    </p>
  </aside>
</template>
