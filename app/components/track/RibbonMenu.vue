<script setup lang="ts">
import { Ellipsis } from '@lucide/vue'
import { mailboxOf } from '~~/core/calls/names'
import { connectionOf, isConversation } from '~~/core/calls/questions'
import { type Ribbon, useDesk } from '~/stores/desk'
import { useRoutes } from '~/stores/routes'
import { useLive } from '~/stores/live'

const props = defineProps<{ ribbon: Ribbon, name: string }>()
const desk = useDesk()
const live = useLive()
const routes = useRoutes()
const keys = useHandKeys()
const panels = usePanels()

interface Item { id: string, label: string, key?: string, act: () => unknown }

const call = computed(() => props.ribbon.call)
const own = computed(() => desk.device ? connectionOf(call.value, desk.device) : undefined)
const number = computed(() => call.value.party?.number ?? null)
const talks = computed(() => call.value.id === desk.talking?.id && isConversation(call.value))
const carryable = computed(() => !call.value.conference && (props.ribbon.stretch === 'arriving' || props.ribbon.due.waiting === 'hold' || talks.value) && call.value.id !== desk.consultation?.id)

const items = computed<Item[]>(() => [
  ...(props.ribbon.stretch === 'arriving' ? arrivingItems() : []),
  ...(carryable.value
    ? [
        { id: 'park', label: 'Park in the first free slot', key: '# Enter', act: () => desk.ask({ service: 'parkCall', call: call.value.id, slot: null, for: null }) },
        { id: 'carry', label: 'Carry to…', act: () => desk.carry(call.value.id) },
      ]
    : []),
  ...(talks.value ? talkingItems() : []),
  ...(call.value.watched ? [{ id: 'endOutside', label: 'End for both', act: () => desk.ask({ service: 'clearCall', call: call.value.id }) }] : []),
  ...(props.ribbon.stretch === 'inHand' ? [{ id: 'message', label: 'Take a message…', key: 'F4', act: () => panels.takeMessage(call.value) }] : []),
  { id: 'story', label: 'Its story', act: () => panels.openStory(call.value.id) },
  ...(number.value ? [{ id: 'block', label: 'Block this number…', act: () => panels.block(number.value!) }] : []),
])

function arrivingItems(): Item[] {
  const line = call.value.line
  return [
    ...(desk.quiet.has(call.value.id) ? [] : [{ id: 'quiet', label: 'Quiet', key: 'Esc', act: () => desk.hush(call.value.id) }]),
    { id: 'refuse', label: 'Leave it to the others', act: () => desk.ask({ service: 'clearConnection', call: call.value.id }) },
    { id: 'voicemail', label: 'To voicemail', act: () => routes.pass(call.value, mailboxOf(line ?? desk.device!)) },
  ]
}

function talkingItems(): Item[] {
  const joins = desk.askedFor ?? desk.held[0]?.call
  return [
    { id: 'mute', label: own.value?.muted ? 'Unmute' : 'Mute', key: 'F2', act: keys.mute },
    { id: 'digits', label: 'Send digits…', key: 'F9', act: panels.openDigits },
    ...(joins ? [{ id: 'join', label: `Join all with ${desk.otherName(joins)}`, key: 'F8', act: keys.joinAll }] : []),
    ...(call.value.conference?.by === desk.device ? [{ id: 'endAll', label: 'End for everybody', act: () => desk.ask({ service: 'clearCall', call: call.value.id }) }] : []),
  ]
}

function act(id: string): void {
  void items.value.find(item => item.id === id)?.act()
}
</script>

<template>
  <el-dropdown
    trigger="click"
    @command="act"
  >
    <el-button
      class="menu"
      :icon="Ellipsis"
      :disabled="!live.working"
      :aria-label="`More for ${name}`"
    />
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-for="item in items"
          :key="item.id"
          :command="item.id"
        >
          <span class="label">{{ item.label }}</span> <kbd v-if="item.key">{{ item.key }}</kbd>
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.menu {
  padding-inline: var(--space-2);
}

.label {
  flex: 1;
  padding-right: var(--space-4);
}
</style>
