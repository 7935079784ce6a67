<script setup lang="ts">
import { linesAskedOf } from '~~/core/calls/questions'
import { allChannelsBusy } from '~~/core/console/board-news'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

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

function choose(command: string): void {
  const [what, id] = command.split(' ') as [string, string]
  if (what === 'take' || what === 'leave') {
    const offer = offers.value.find(({ line }) => line === id)
    if (offer) void desk.ask({ service: 'answerLineOffer', from: offer.from, line: id, yes: what === 'take' })
  }
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
  <el-dropdown
    v-if="desk.operates"
    trigger="click"
    :hide-on-click="false"
    :disabled="!live.working"
    @command="choose"
  >
    <el-button
      :class="['lines', { closed: closed.length || busy, asked: offers.length }]"
      :aria-label="label"
      :title="label"
    >
      {{ words }}
    </el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <template
          v-for="offer in offers"
          :key="`${offer.from} ${offer.line}`"
        >
          <el-dropdown-item :command="`take ${offer.line}`">
            {{ directory.nameOf(offer.from) }} asks you to take the {{ directory.line(offer.line)?.name }}: take it
          </el-dropdown-item>
          <el-dropdown-item :command="`leave ${offer.line}`">
            not now
          </el-dropdown-item>
        </template>
        <template
          v-for="line in lines"
          :key="line.id"
        >
          <el-dropdown-item
            v-if="line.served !== null"
            :command="`serve ${line.id}`"
            divided
          >
            <span
              class="mark"
              aria-hidden="true"
            >{{ line.served ? '■' : '□' }}</span>
            {{ line.name }}: {{ line.served ? 'served' : `not served${line.until ? ` until ${shownAt(line.until).format('H:mm')}` : ''}` }}
          </el-dropdown-item>
          <el-dropdown-item
            :command="`${line.opening.open ? 'close' : 'open'} ${line.id}`"
            :divided="line.served === null"
          >
            {{ line.name }}{{ line.served === null ? `, to the ${directory.nameOf(line.target)}` : '' }}: {{ line.opening.words }} ·
            {{ line.opening.open ? 'close it …' : 'open it' }}
          </el-dropdown-item>
          <el-dropdown-item
            v-if="line.opening.hours && line.opening.byHand"
            :command="`hours ${line.id}`"
          >
            {{ line.name }}: as its hours say
          </el-dropdown-item>
        </template>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
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

.mark {
  margin-right: var(--space-3);
}
</style>
