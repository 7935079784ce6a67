import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { localTime } from '~~/core/calendar/zones'
import { seesCallers } from '~~/shared/roles'
import type { OwnNote } from '~~/shared/notes'
import { useAsking } from '~/composables/asking'
import { useLive } from './live'
import { useSession } from './session'
import { useWhereabouts } from './whereabouts'

/** What one has noted about colleagues for oneself, and what one wants to be reminded of. */
export const useNotes = defineStore('notes', () => {
  const live = useLive()
  const session = useSession()
  const whereabouts = useWhereabouts()
  const all = ref<OwnNote[]>([])

  const load = useAsking(async () => {
    const who = session.me?.signIn
    const answer = await $fetch<OwnNote[]>('/api/notes')
    if (session.me?.signIn === who) all.value = answer
  })
  watch([() => live.connected, () => session.me?.signIn, () => session.me?.role], ([connected, signIn, role]) => {
    if (signIn === undefined || !seesCallers(role!)) all.value = []
    else if (connected) void load()
  }, { immediate: true })

  const today = computed(() => new Date(localTime(live.company?.settings.zone ?? 'UTC', whereabouts.now)).toISOString().slice(0, 10))
  /** Those whose day has come, the oldest first, of people who are still here. */
  const due = computed(() => all.value.filter(({ person, remindOn }) => remindOn !== null && remindOn <= today.value && live.company?.people[person]))

  function of(person: string): OwnNote {
    return all.value.find(note => note.person === person) ?? { person, text: '', remindOn: null }
  }

  /** @throws what the server says is wrong with it */
  async function keep({ person, text, remindOn }: OwnNote): Promise<void> {
    await $fetch(`/api/notes/${encodeURIComponent(person)}`, { method: 'PUT', body: { text, remindOn } })
    await load()
  }

  return { today, due, of, keep }
})
