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
  return { call, words: answered ? `${directory.nameOf(answered.device)} has answered.` : `It rings, ${since}.`, answered: Boolean(answered) }
}))
const there = computed(() => [...live.state?.agents ?? []].filter(([, { attended }]) => attended).map(([id]) => directory.nameOf(id)))
/** It may be evening: by its hours nobody answers now. */
const closed = computed(() => live.state !== null && line.value !== undefined && !isOpen(live.state, line.value.id))
const openIt = () => desk.ask({ service: 'setOpening', of: line.value!.id, open: true, until: live.wall(live.now() + 3_600_000) })
const done = ref(false)
watch(calls, now => done.value ||= now.some(({ answered }) => answered))

const ring = () => line.value && callers.dial('A first caller', '', line.value.number)
</script>

<template>
  <p v-if="there.length">
    At a console now: {{ there.join(', ') }}.
  </p>
  <p v-else>
    Nobody is at a console yet: an operator signs in, in another browser or a private window. If you are one of them, say so with the step before.
  </p>
  <p v-if="closed">
    By its hours {{ line!.name }} is closed now: callers can leave a message.
    <el-button
      v-if="desk.device"
      size="small"
      @click="openIt"
    >
      Open it for an hour
    </el-button>
  </p>
  <p class="button-row">
    <el-button
      type="primary"
      :disabled="!props.ready || !line"
      @click="ring"
    >
      Ring {{ line?.name ?? 'the general line' }}
    </el-button>
    <el-button @click="navigateTo('/')">
      To the console
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
        Hang up
      </el-button>
    </li>
  </ul>
  <p
    v-if="done"
    class="done"
    role="status"
  >
    The first call has been answered. The house is at work: everything else is under Company.
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
