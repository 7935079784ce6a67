<script setup lang="ts">
import { membersOf } from '~~/core/calls/questions'
import type { Ribbon } from '~~/core/console/track'
import { useDesk } from '~/stores/desk'
import { useEnding } from '~/stores/ending'
import { useLive } from '~/stores/live'

const props = defineProps<{
  ribbon: Ribbon
  /** On a ribbon of one line there is room for the likeliest alone; the others are in its menu. */
  line?: boolean
}>()
const desk = useDesk()
const live = useLive()
const ending = useEnding()

const call = computed(() => props.ribbon.call.id)
const waiting = computed(() => props.ribbon.due.waiting)
const isNext = computed(() => desk.next?.call.id === call.value)
const first = computed(() => desk.held[0]?.call.id === call.value)
const name = computed(() => desk.otherName(props.ribbon.call))
const isAsking = computed(() => desk.consultation?.id === call.value)
const isAskedFor = computed(() => desk.askedFor?.id === call.value)
const colleagueIsThere = computed(() => desk.consultation !== null && membersOf(desk.consultation).length > 1)
const end = computed(() => {
  if (ending.asked === call.value) {
    return { label: t('track.pressAgain'), aria: props.ribbon.call.conference
      ? t('track.leaveTheConferencePressAgain')
      : t('track.endTheCallWithPress', { name: name.value }) }
  }
  return props.ribbon.call.conference
    ? { label: t('track.leave'), aria: t('track.leaveTheConferenceTheOthers') }
    : { label: 'End', aria: t('track.endTheCallWith', { name: name.value }) }
})
</script>

<template>
  <div :class="['actions', { brief: line }]">
    <el-button
      v-if="ribbon.stretch === 'arriving'"
      class="call"
      :disabled="!live.working"
      :aria-label="t('track.answerName', { name })"
      @click="desk.ask({ service: 'answerCall', call })"
    >
      {{ t('common.answer') }} <kbd v-if="isNext && (!desk.consultation || desk.chosen)">⏎</kbd>
    </el-button>
    <template v-else-if="isAsking && desk.askedFor">
      <template v-if="!line">
        <el-button
          class="call"
          :disabled="!live.working"
          :aria-label="t('track.handOverTo', { name: desk.otherName(desk.askedFor), name2: name })"
          @click="desk.ask({ service: 'transferCall', call: desk.askedFor.id, consultation: call })"
        >
          {{ t('common.handOver') }} <kbd v-if="!desk.chosen">⏎</kbd>
        </el-button>
        <el-button
          :disabled="!live.working"
          :aria-label="t('track.backToLettingGoOf', { name: desk.otherName(desk.askedFor), name2: name })"
          @click="desk.ask({ service: 'reconnectCall', call })"
        >
          {{ t('track.back') }} <kbd>⌫</kbd>
        </el-button>
      </template>
      <el-button
        v-if="waiting === 'hold'"
        :disabled="!live.working"
        :aria-label="t('track.swapTo', { name })"
        @click="desk.ask({ service: 'retrieveCall', call })"
      >
        {{ t('track.swap') }} <kbd>←</kbd>
      </el-button>
    </template>
    <template v-else-if="ribbon.stretch === 'inHand'">
      <el-button
        v-if="waiting === 'hold'"
        :disabled="!live.working"
        :aria-label="t('track.takeBack', { name })"
        @click="desk.ask({ service: 'retrieveCall', call })"
      >
        {{ isAskedFor && colleagueIsThere ? t('track.swap') : t('common.takeBack') }}
        <kbd v-if="isAskedFor || (first && desk.talking && !desk.askedFor)">←</kbd>
        <kbd v-else-if="first && !desk.talking">{{ t('track.space') }}</kbd>
      </el-button>
      <template v-else>
        <el-button
          v-if="waiting === 'none' && !line"
          :disabled="!live.working"
          :aria-label="t('track.holdName', { name })"
          @click="desk.ask({ service: 'holdCall', call })"
        >
          {{ t('track.hold') }} <kbd>{{ t('track.space') }}</kbd>
        </el-button>
        <el-button
          :class="{ sure: ending.asked === call }"
          :disabled="!live.working"
          :aria-label="end.aria"
          @click="ending.end(call)"
        >
          {{ end.label }} <kbd>{{ t('track.del') }}</kbd>
        </el-button>
      </template>
    </template>
    <el-button
      v-else-if="ribbon.stretch === 'passedOn'"
      :disabled="!live.working"
      :aria-label="`${waiting === 'outside' ? t('common.takeBack') : t('track.pullBack')} ${name}`"
      @click="desk.ask({ service: 'directedPickupCall', call })"
    >
      {{ waiting === 'outside' ? t('common.takeBack') : t('track.pullBack') }} <kbd>⌫</kbd>
    </el-button>
    <RibbonMenu
      :ribbon="ribbon"
      :name="name"
      :line="line"
    />
  </div>
</template>

<style scoped>
.actions {
  position: relative;
  display: flex;
  flex-wrap: wrap;
  align-content: flex-start;
  justify-content: flex-end;
  gap: var(--space-2);
  max-width: 9.5rem;
}

.actions :deep(.el-button) {
  margin: 0;
  --el-button-size: 1.75rem;
  height: 1.75rem;
  padding-inline: var(--space-3);
}

.actions kbd {
  margin-left: var(--space-2);
}

.actions.brief {
  flex: none;
  flex-wrap: nowrap;
  max-width: none;
}

.actions.brief :deep(.el-button) {
  --el-button-size: var(--ribbon-line);
  height: var(--ribbon-line);
  padding-inline: var(--space-3);
  font-size: var(--type-2);
}

.el-button.call {
  --el-button-bg-color: var(--ink);
  --el-button-text-color: var(--paper);
  --el-button-border-color: var(--ink);
  --el-button-hover-bg-color: var(--ink-soft);
  --el-button-hover-text-color: var(--paper);
  --el-button-active-bg-color: var(--ink);
  --el-button-disabled-bg-color: var(--edge-strong);
  --el-button-disabled-text-color: var(--paper);
}

.el-button.sure {
  --el-button-bg-color: var(--alarm);
  --el-button-text-color: var(--alarm-ink);
  --el-button-border-color: var(--alarm);
  --el-button-hover-bg-color: var(--alarm);
  --el-button-hover-text-color: var(--alarm-ink);
}
</style>
