<script setup lang="ts">
import type { LogPage, LogRow } from '~~/shared/log'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

/** While nobody waits: whom the operator has passed on last, and what became of them. */
const desk = useDesk()
const live = useLive()
const rows = shallowRef<LogRow[]>([])
const most = 6

async function load(): Promise<void> {
  const { device } = desk
  if (!device) return
  try {
    const page = await $fetch<LogPage>('/api/calls', { query: { kind: 'in', device, limit: 30 } })
    rows.value = page.rows.filter(row => row.endedAt !== null && passedOn(row, device)).slice(0, most)
  }
  catch {
    // What is under way is said elsewhere; it is asked again with the next call.
  }
}

/** The operator had it, and somebody else afterwards. */
function passedOn({ story }: LogRow, device: string): boolean {
  const own = story.findIndex(step => step.device === device && step.type === 'established')
  return own >= 0 && story.slice(own + 1).some(step => step.device !== device && ['delivered', 'queued', 'established'].includes(step.type))
}
onMounted(load)
const when = (at: number) => momentWords(at, live.wall(live.now()))
/** To whom, where that is known; else what became of it. */
function became(row: LogRow): string {
  return row.outcome === 'answered' && row.endedWith && row.endedWith !== desk.device ? t('track.toX', { x: nameIn(row)(row.endedWith) }) : becameOf(row)
}
</script>

<template>
  <section aria-labelledby="passed-lately">
    <h3 id="passed-lately">
      {{ t('track.yourLastCallers') }}
    </h3>
    <ol v-if="rows.length">
      <li
        v-for="row in rows"
        :key="row.id"
      >
        <span class="when">{{ when(row.startedAt) }}</span> <strong>{{ whoCalled(row) }}</strong> {{ became(row) }}
      </li>
    </ol>
    <p v-else>
      {{ t('track.nobodyYet') }}
    </p>
  </section>
</template>
