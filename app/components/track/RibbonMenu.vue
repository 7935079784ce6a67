<script setup lang="ts">
import { Ellipsis } from '@lucide/vue'
import type { Choice } from '../menu/ChoiceMenu.vue'
import { mailboxOf } from '~~/core/calls/names'
import type { Call } from '~~/core/calls/model'
import { connectionOf, isConversation } from '~~/core/calls/questions'
import type { Deed } from '~~/core/console/console'
import { mayRecord } from '~~/core/calls/recording/recordings'
import { joinAll, mute, record } from '~~/core/console/keys'
import type { Ribbon } from '~~/core/console/track'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useWays } from '~/stores/ways'
import { useLive } from '~/stores/live'

const props = defineProps<{ ribbon: Ribbon, name: string, line?: boolean }>()
const desk = useDesk()
const live = useLive()
const ways = useWays()
const dialogs = useDialogs()

type Item = Choice & { act: () => unknown }

const call = computed(() => props.ribbon.call)
const own = computed(() => desk.device ? connectionOf(call.value, desk.device) : undefined)
const number = computed(() => call.value.party?.number ?? null)
const talks = computed(() => call.value.id === desk.talking?.id && isConversation(call.value))
const ready = computed(() => props.ribbon.stretch === 'arriving' || props.ribbon.due.waiting === 'hold' || talks.value)
const carryable = computed(() => ready.value && !call.value.conference && call.value.id !== desk.consultation?.id)
const park = () => desk.ask({ service: 'parkCall', call: call.value.id, slot: null, for: null })
const clear = () => desk.ask({ service: 'clearCall', call: call.value.id })
function promise(): void {
  const { party, line } = call.value
  dialogs.callBack = { number: party?.number ?? '', name: party?.name ?? '', line }
}
const takeMessage = () => ways.perform({ do: 'takeMessage', to: null, call: call.value.id })

const items = computed<Item[]>(() => [
  ...(props.line && call.value.id === desk.consultation?.id && desk.askedFor ? askingItems(desk.askedFor) : []),
  ...(props.ribbon.stretch === 'arriving' ? arrivingItems() : []),
  ...(carryable.value
    ? [
        { id: 'park', label: t('track.parkInTheFirstFree'), key: t('track.enter'), act: park },
        { id: 'carry', label: t('track.carryTo'), act: () => desk.carry(call.value.id) },
      ]
    : []),
  ...(talks.value ? talkingItems() : []),
  ...(call.value.watched ? [{ id: 'endOutside', label: t('track.endForBoth'), act: clear }] : []),
  ...(props.ribbon.stretch === 'inHand' ? [{ id: 'message', label: t('track.takeAMessage'), key: 'F4', act: takeMessage }] : []),
  ...(number.value && desk.operates ? [{ id: 'callBack', label: t('track.promiseACallBack'), act: promise }] : []),
  { id: 'story', label: t('track.itsStory2'), act: () => { dialogs.story = call.value.id } },
  ...(number.value ? [{ id: 'block', label: t('track.blockThisNumber'), act: () => { dialogs.blocking = number.value } }] : []),
])

function askingItems(askedFor: Call): Item[] {
  const consultation = call.value.id
  const name = desk.otherName(askedFor)
  return [
    { id: 'handOver', label: t('track.handOver', { name }), key: 'Enter', act: () => desk.ask({ service: 'transferCall', call: askedFor.id, consultation }) },
    { id: 'back', label: t('track.backTo', { name }), key: '⌫', act: () => desk.ask({ service: 'reconnectCall', call: consultation }) },
  ]
}

function arrivingItems(): Item[] {
  const line = call.value.line
  return [
    ...(desk.quiet.has(call.value.id) ? [] : [{ id: 'quiet', label: t('track.quiet'), key: t('common.esc'), act: () => desk.hush(call.value.id) }]),
    { id: 'refuse', label: t('track.leaveItToTheOthers'), act: () => desk.ask({ service: 'clearConnection', call: call.value.id }) },
    { id: 'voicemail', label: t('track.toVoicemail'), act: () => ways.pass(call.value, mailboxOf(line ?? desk.device!)) },
  ]
}

function talkingItems(): Item[] {
  const joins = desk.askedFor ?? desk.held[0]?.call
  return [
    { id: 'mute', label: own.value?.muted ? t('track.unmute') : t('track.mute'), key: 'F2', act: () => perform(mute) },
    ...(live.state && desk.device && mayRecord(live.state, desk.device)
      ? [{ id: 'record', label: call.value.recording ? t('track.recordNoMore') : t('track.record'), key: '"', act: () => perform(record) }]
      : []),
    { id: 'digits', label: t('track.sendDigits'), key: 'F9', act: () => ways.perform({ do: 'sendDigits' }) },
    ...(joins ? [{ id: 'join', label: t('track.joinAllWith', { name: desk.otherName(joins) }), key: 'F8', act: () => perform(joinAll) }] : []),
    ...(call.value.conference?.by === desk.device ? [{ id: 'endAll', label: t('track.endForEverybody'), act: clear }] : []),
  ]
}

/** Does what a key of the call in hand does. */
function perform(meaning: typeof mute): void {
  const console = ways.console()
  const deed: Deed | null = console && meaning(console)
  if (deed) void ways.perform(deed)
}

function act(id: string): void {
  void items.value.find(item => item.id === id)?.act()
}
</script>

<template>
  <ChoiceMenu
    :choices="items"
    @choose="act"
  >
    <el-button
      class="menu"
      :icon="Ellipsis"
      :disabled="!live.working"
      :aria-label="t('track.moreFor', { name })"
    />
  </ChoiceMenu>
</template>

<style scoped>
.menu {
  padding-inline: var(--space-2);
}
</style>
