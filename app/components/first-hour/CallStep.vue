<script setup lang="ts">
import { isOpen } from '~~/core/queues/openings'
import { spell } from '~~/core/durations/durations'
import { useCallers } from '~/stores/callers'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** The first call: the general line is rung from here, and whoever answers is told. */
const props = defineProps<{ ready: boolean }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const callers = useCallers()
const company = computed(() => live.company!)
const line = computed(() => Object.values(company.value.lines).find(({ target }) => target === company.value.settings.operators))
const calls = computed(() => callers.calls.map((call) => {
  const answered = call.story.find(({ type }) => type === 'established')
  const since = spell(desk.now - call.created)
  return { call, words: answered
    ? t('firstHour.hasAnswered', { name: directory.nameOf(answered.device) })
    : t('firstHour.itRings', { since }), answered: Boolean(answered) }
}))
const there = computed(() => [...live.state?.agents ?? []].filter(([, { attended }]) => attended).map(([id]) => directory.nameOf(id)))
/** It may be evening: by its hours nobody answers now. */
const closed = computed(() => live.state !== null && line.value !== undefined && !isOpen(live.state, line.value.id))
const openIt = () => desk.ask({ service: 'setOpening', of: line.value!.id, open: true, until: live.wall(live.now() + 3_600_000) })
const done = ref(false)
watch(calls, now => done.value ||= now.some(({ answered }) => answered))

const ring = () => line.value && callers.dial(t('firstHour.aFirstCaller'), '', line.value.number)
</script>

<template>
  <p v-if="there.length">
    {{ t('firstHour.atAConsoleNow', { there: there.join(', ') }) }}
  </p>
  <p v-else>
    {{ t('firstHour.nobodyIsAtAConsole') }}
  </p>
  <p v-if="closed">
    {{ t('firstHour.byItsHoursIsClosed', { name: line!.name }) }}
    <el-button
      v-if="desk.device"
      size="small"
      @click="openIt"
    >
      {{ t('firstHour.openItForAnHour') }}
    </el-button>
  </p>
  <p class="button-row">
    <el-button
      type="primary"
      :disabled="!props.ready || !line"
      @click="ring"
    >
      {{ t('firstHour.ringName', { name: line?.name ?? t('firstHour.theGeneralLine') }) }}
    </el-button>
    <el-button @click="navigateTo('/')">
      {{ t('firstHour.toTheConsole') }}
    </el-button>
  </p>
  <FailureNote :text="callers.failure" />
  <ul
    class="calls"
    aria-live="polite"
  >
    <li
      v-for="{ call, words } in calls"
      :key="call.id"
    >
      {{ words }}
      <el-button
        size="small"
        @click="callers.hangUp(call)"
      >
        {{ t('firstHour.hangUp') }}
      </el-button>
    </li>
  </ul>
  <p
    v-if="done"
    class="done"
    role="status"
  >
    {{ t('firstHour.theFirstCallHasBeen') }}
  </p>
</template>

<style scoped>
.calls li {
  display: flex;
  gap: var(--space-4);
  align-items: center;
  padding: var(--space-3) 0;
}
</style>
