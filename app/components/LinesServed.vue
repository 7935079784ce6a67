<script setup lang="ts">
import { linesAskedOf } from '~~/core/calls/questions'
import { allChannelsBusy } from '~~/core/console/board-news'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import type { Choice } from './menu/ChoiceMenu.vue'

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const dialogs = useDialogs()
const { wordsOf } = useOpeningWords()
const awhile = 30 * 60_000

const lines = computed(() => {
  const unserved = (desk.device && live.state?.agents.get(desk.device)?.unserved) || {}
  const { operators } = live.company!.settings
  return directory.lines.map(line => ({
    ...line, served: line.target !== operators ? null : !(line.id in unserved), until: unserved[line.id] ?? null, opening: wordsOf(line.id),
  }))
})
/** Those that come to the operators; the others go to queues. */
const own = computed(() => lines.value.filter(({ served: is }) => is !== null))
/** Who asks one to take a line. */
const offers = computed(() => live.state && desk.device ? linesAskedOf(live.state, desk.device) : [])
const busy = computed(() => live.state !== null && allChannelsBusy(live.state))
const closed = computed(() => lines.value.filter(({ opening }) => !opening.open))
/** A line that is closed is plain to see, whoever closed it; and that nobody can call out. */
const words = computed(() => {
  if (offers.value.length > 0) return 'You are asked'
  if (busy.value) return 'All in use'
  return closed.value.length > 0 ? `${closed.value.length} closed` : `Lines ${served.value} of ${own.value.length}`
})
const label = computed(() => {
  const shut = closed.value.map(({ name, opening }) => `; ${name}: ${opening.words}`).join('')
  const asked = offers.value.map(({ from, line }) => `${directory.nameOf(from)} asks you to take the ${directory.line(line)?.name}; `).join('')
  return `${asked}Lines served: ${served.value} of ${own.value.length}${shut}${busy.value ? '; every line to the outside is in use' : ''}`
})
const served = computed(() => own.value.filter(line => line.served).length)

const choices = computed<Choice[]>(() => [
  ...offers.value.flatMap(({ from, line }) => [
    { id: `take ${line} ${from}`, label: `${directory.nameOf(from)} asks you to take the ${directory.line(line)?.name}: take it` },
    { id: `leave ${line} ${from}`, label: 'not now' },
  ]),
  ...lines.value.flatMap(({ id, name, target, served: is, until, opening }) => [
    ...(is === null
      ? []
      : [{
          id: `serve ${id}`, label: `${name}: ${is ? 'served' : `not served${until ? ` until ${shownAt(until).format('H:mm')}` : ''}`}`,
          mark: is ? '■' : '□', divided: true,
        }]),
    {
      id: `${opening.open ? 'close' : 'open'} ${id}`, divided: is === null,
      label: `${name}${is === null ? `, to the ${directory.nameOf(target)}` : ''}: ${opening.words} · ${opening.open ? 'close it …' : 'open it'}`,
    },
    ...(opening.hours && opening.byHand ? [{ id: `hours ${id}`, label: `${name}: as its hours say` }] : []),
  ]),
])

function choose(command: string): void {
  const [what, id, asker] = command.split(' ') as [string, string, string?]
  if (what === 'take' || what === 'leave') void desk.ask({ service: 'answerLineOffer', from: asker!, line: id, yes: what === 'take' })
  else if (what === 'serve') toggle(id)
  else if (what === 'close') dialogs.closing = id
  else void desk.ask({ service: 'setOpening', of: id, open: what === 'hours' ? null : what === 'open', until: null })
}

function toggle(id: string): void {
  const line = lines.value.find(candidate => candidate.id === id)!
  void desk.ask({ service: 'setLineServed', line: id, on: !line.served, until: line.served ? live.wall(live.now() + awhile) : null })
}
</script>

<template>
  <ChoiceMenu
    v-if="desk.operates"
    :choices="choices"
    :disabled="!live.working"
    stays-open
    @choose="choose"
  >
    <el-button
      :class="['lines', { closed: closed.length || busy, asked: offers.length }]"
      :aria-label="label"
      :title="label"
    >
      {{ words }}
    </el-button>
  </ChoiceMenu>
</template>

<style scoped>
.lines {
  min-width: 6.75rem;
}

.closed {
  border-color: var(--alarm);
  color: var(--alarm);
  font-weight: 700;
}

.asked {
  border-color: var(--call);
  color: var(--call);
  font-weight: 700;
}
</style>
