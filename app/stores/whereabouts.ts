import { useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { onDuty, telephoneOf } from '~~/core/calendar/duty'
import { engagedAt } from '~~/core/calendar/engaged'
import type { DeviceId } from '~~/core/calls/model'
import type { Duty } from '~~/core/company/company'
import { lookUp, telephonesOf } from '~~/core/company/lookups'
import type { Engaged } from '~~/core/presence/presence'
import type { Engagement, WhereaboutsNow } from '~~/shared/whereabouts'
import { useAsking } from '~/composables/asking'
import { useLive } from './live'
import { useSession } from './session'

/** Tomorrow becomes today, and what is seen of a roster ends: asked again now and then, also when nothing has changed. */
const askEvery = 30 * 60_000
/** Who is out, and who is where, is looked at anew so often. */
const step = 5_000
const nothing: WhereaboutsNow = { engagements: [], turns: [], occupants: [] }

/** Who is where when: what calendars say, who is on duty, and who is at which place. */
export const useWhereabouts = defineStore('whereabouts', () => {
  const live = useLive()
  const session = useSession()
  const known = shallowRef(nothing)
  /** A time that people read; moves on every few seconds. */
  const now = ref(live.wall(live.now()))

  const refresh = useAsking(async () => {
    const who = session.me?.signIn
    const answer = await $fetch<WhereaboutsNow>('/api/whereabouts')
    if (session.me?.signIn === who) known.value = answer
  })
  watch([() => live.news.whereabouts, () => live.connected, () => session.me?.signIn, () => session.me?.role], ([, connected, signIn]) => {
    if (signIn === undefined) known.value = nothing
    else if (connected) void refresh()
  }, { immediate: true })
  useIntervalFn(() => void (live.connected && refresh()), askEvery)
  useIntervalFn(() => {
    now.value = live.wall(live.now())
  }, step)

  const byPerson = computed(() => {
    const all = new Map<string, Engagement[]>()
    for (const one of known.value.engagements) all.set(one.person, [...all.get(one.person) ?? [], one])
    return all
  })

  /** Today's and tomorrow's engagements of a person, in the order in which they begin. */
  function engagementsOf(person: string): Engagement[] {
    return byPerson.value.get(person) ?? []
  }

  // The calendar is one of the things that presence follows from.
  watch([byPerson, now, () => live.company], ([people, at, company]) => {
    const engaged = new Map<DeviceId, Engaged>()
    for (const [person, spans] of company ? people : []) {
      const present = engagedAt(spans, at)
      if (present) for (const { id } of telephonesOf(company!, person)) engaged.set(id, present)
    }
    live.setEngaged(engaged)
  }, { immediate: true })

  /** Who is at each place now. */
  const present = computed(() => known.value.occupants.filter(({ from, to }) => from <= now.value && (to === null || now.value < to)))
  let lastPresent: ReadonlyMap<DeviceId, string[]> = new Map()
  const occupants = computed(() => {
    const all = new Map<DeviceId, string[]>()
    for (const { telephone, name } of present.value) all.set(telephone, [...all.get(telephone) ?? [], name])
    // The same people are the same answer: what is made from it is not made anew every time.
    if (JSON.stringify([...all]) !== JSON.stringify([...lastPresent])) lastPresent = all
    return lastPresent
  })

  /** The duty of an id, with whoever has it now. */
  function duty(id: string) {
    const found = live.company && lookUp(live.company.duties, id)
    return found ? { ...found, ...onDuty(known.value.turns.filter(turn => turn.duty === found.id), now.value) } : null
  }

  /** Where somebody on duty is reached: the first whom the roster names and who can be reached at all; else whoever stands in. */
  function reach({ people, instead }: Duty & { people: readonly string[] }): string {
    const company = live.company!
    const first = people.find(person => telephoneOf(company, person) ?? lookUp(company.people, person)?.mobile)
    return first === undefined ? instead : telephoneOf(company, first) ?? first
  }

  return { known, now, occupants, refresh, engagementsOf, duty, reach }
})
