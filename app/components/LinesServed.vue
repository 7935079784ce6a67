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
  if (offers.value.length > 0) return t('lines.youAreAsked')
  if (busy.value) return t('lines.allInUse')
  return closed.value.length > 0
    ? t('lines.countClosed', { count: closed.value.length })
    : t('lines.linesOf', { served: served.value, count: own.value.length })
})
const label = computed(() => {
  const shut = closed.value.map(({ name, opening }) => `; ${name}: ${opening.words}`).join('')
  const asked = offers.value.map(({ from, line }) => t('lines.asksYouToTakeThe', { name: directory.nameOf(from), name2: directory.line(line)!.name })).join('')
  return t('lines.linesServedOf', { asked, served: served.value, count: own.value.length, shut, more: busy.value ? t('lines.everyLineToTheOutside') : '' })
})
const served = computed(() => own.value.filter(line => line.served).length)

const choices = computed<Choice[]>(() => [
  ...offers.value.flatMap(({ from, line }) => [
    { id: `take ${line} ${from}`, label: t('lines.asksYouToTakeTheTake', { name: directory.nameOf(from), name2: directory.line(line)!.name }) },
    { id: `leave ${line} ${from}`, label: t('lines.notNow') },
  ]),
  ...lines.value.flatMap(({ id, name, target, served: is, until, opening }) => [
    ...(is === null
      ? []
      : [{
          id: `serve ${id}`, label: `${name}: ${is
            ? t('lines.served')
            : t('lines.notServed', { more: until ? t('common.untilAt', { at: shownAt(until).format('H:mm') }) : '' })}`,
          mark: is ? '■' : '□', divided: true,
        }]),
    {
      id: `${opening.open ? 'close' : 'open'} ${id}`, divided: is === null,
      label: `${name}${is === null
        ? t('lines.toThe', { name: directory.nameOf(target) })
        : ''}: ${opening.words} · ${opening.open ? t('lines.closeIt') : t('lines.openIt')}`,
    },
    ...(opening.hours && opening.byHand ? [{ id: `hours ${id}`, label: t('lines.asItsHoursSay', { name }) }] : []),
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
