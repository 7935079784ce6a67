<script setup lang="ts">
import { type AwayReason, awayReasons } from '~~/core/calls/model'
import { reasonWords } from '~/composables/words'
import { useDesk } from '~/stores/desk'
import { focusField, useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'

const live = useLive()
const desk = useDesk()
const dialogs = useDialogs()

const status = computed(() => desk.device ? live.state?.devices.get(desk.device)?.status : undefined)
const words = computed(() => {
  const { reason, until } = status.value ?? {}
  if (!reason) return t('status.available')
  return t('status.awayReasonWordsMore', { reason: t(reasonWords[reason]), more: until ? t('common.untilAt', { at: shownAt(until).format('H:mm') }) : '' })
})
const minutes = [15, 30, 60] as const

const forwarded = computed(() => desk.device ? Object.values(live.state?.devices.get(desk.device)?.forwarding ?? {}).length > 0 : false)

const choices = computed(() => [
  { id: 'available', label: t('status.available') },
  { id: 'forward', label: forwarded.value ? t('status.yourCallsAreForwarded') : t('status.forwardYourCalls') },
  ...awayReasons.flatMap(reason => [
    { id: reason as string, label: t('status.awayReasonWords', { reason: t(reasonWords[reason]) }), divided: true },
    ...(reason === 'lunch' || reason === 'break' || reason === 'meeting'
      ? minutes.map(length => ({ id: `${reason}:${length}`, label: t('status.forMinutes', { reason: t(reasonWords[reason]), length }), under: true }))
      : []),
  ]),
])

async function set(choice: string): Promise<void> {
  if (choice === 'forward') {
    dialogs.forwarding = desk.device
    return
  }
  const [reason, length] = choice.split(':') as [AwayReason | 'available', string | undefined]
  const until = length ? live.wall(live.now() + Number(length) * 60_000) : null
  await desk.ask(reason === 'available' ? { service: 'setStatus', reason: null, until: null } : { service: 'setStatus', reason, until })
  focusField()
}
</script>

<template>
  <ChoiceMenu
    :choices="choices"
    :disabled="!live.working"
    @choose="set"
  >
    <el-button
      :class="['status', { away: status?.reason }]"
      :aria-label="t('status.ownStatus', { words })"
    >
      <span
        class="lamp"
        aria-hidden="true"
      />{{ words }}
    </el-button>
  </ChoiceMenu>
</template>

<style scoped>
.lamp {
  width: 0.7em;
  height: 0.7em;
  margin-right: var(--space-3);
  background: var(--ink);
  border: 2px solid var(--ink);
}

.away .lamp {
  background: transparent;
}
</style>
